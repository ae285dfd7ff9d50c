#!/usr/bin/python3
"""Small views of ray-traced places, for training what looks at a picture as a whole. See README.md.
smallPlaces.py --out FOLDER --seeds 1-300 [--jobs 2] [--coast] [--skies 3]
FOLDER/N.npz: views V (one place under so many skies, as a camera takes them, sRGB), W the water's coverage, K the sky's, Y the horizon's row in the middle, as a share of
the height, T its tilt, degrees clockwise; of each view SUN: the sun's azimuth and height, degrees (0 ahead, 90 right), and luminance, 0 without one.
The places are those of scenes/places.py, with --coast those by the water, seen from other heights, over smaller and larger waves.
"""
import math, os, re, shutil, sys, tempfile
import numpy as np, cv2

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "scenes"))
import places

places.W, places.H = W, H = 384, 256


def make(seed, out, coast, skies):
    rng = np.random.default_rng([78 if coast else 79, seed])
    work = tempfile.mkdtemp(prefix="wet-")
    try:
        p = places.Place(rng, coast)
        if rng.random() < 0.6:
            p.high = math.exp(rng.uniform(math.log(0.6), math.log(25)))
            p.look = math.radians(rng.uniform(-4, 9) - 12 * math.log(1 + p.high / 6))
        if rng.random() < 0.6:  # waves of another size and height
            size, high = math.exp(rng.uniform(-1.5, 1.5)), rng.uniform(0.03, 0.5)
            p.text = re.sub(
                r"bumps [\d.]+ scale <1.6,1,0.42>\]\[1 wrinkles [\d.]+ scale <0.9,1,0.25>",
                "bumps %.3f scale %.3f*<1.6,1,%.2f>][1 wrinkles %.3f scale %.3f*<0.9,1,0.25>"
                % (high, size, rng.uniform(0.3, 1), high * rng.uniform(0, 0.8), size),
                p.text,
            )
        kinds = rng.choice(list(places.KINDS), skies, replace=False)
        mask = lambda m: places.render(work, p.scene(places.Sky(rng, str(kinds[0])), ""), W, H, "mask", ["MATTE=%d" % m])[..., 0]
        water = mask(2) if coast or p.wet else np.zeros((H, W))
        if coast and water.mean() < 0.02:
            return
        views, suns = [], []
        for kind in kinds:
            sky = places.Sky(rng, str(kind))
            lights, _ = sky.lights(work, rng.uniform(0.6, 1.25))
            lin = places.render(work, p.scene(sky, lights), W, H, "view")
            views.append(places.taken(rng, lin, rng.uniform(0.3, 3)))
            suns.append((0, 0, 0) if sky.sun is None else (sky.azimuth, sky.elevation, float(np.mean(sky.sun))))
        np.savez_compressed(
            os.path.join(out, "%d.npz" % seed),
            V=np.stack(views).astype(np.uint8),
            W=places.q8(water),
            K=places.q8(mask(1)),
            Y=p.horizon() / H,
            T=p.roll,
            SUN=np.array(suns, np.float32),
        )
    finally:
        shutil.rmtree(work, ignore_errors=True)


if __name__ == "__main__":
    places.draw(make, "1-300")
