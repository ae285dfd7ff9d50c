#!/usr/bin/python3
"""Places under several skies, ray-traced, for measuring how well a new sky's light is put on the land.
places.py --out FOLDER --seeds 1-6 [--jobs 2] [--coast] [--skies 3]
FOLDER/place-N/: photo.jpg, alpha.png (coverage of the sky), water.png where there is water, sky1.jpg to sky3.jpg, truth1.jpg to truth3.jpg
(the same place under that sky, same exposure), meta.json (horizon, tilt, light, grain, blur, haze).

--coast: always with water; calm or with waves, of any colour, the open sea or a far shore, with land before it.

The dome of the sky lights the land by its own colour, direction by direction; the sun is added where the sky has one.
"""
import argparse, json, math, os, shutil, subprocess, tempfile
from concurrent.futures import ThreadPoolExecutor

import cv2
import numpy as np

W, H = 600, 400
SKY_W, SKY_H, SKY_VIEW = 900, 600, 80.0
LIGHTS = 24


def to_srgb(v):
    v = np.clip(v, 0, 1)
    return np.where(v <= 0.0031308, 12.92 * v, 1.055 * v ** (1 / 2.4) - 0.055)


def to_linear(v):
    v = np.asarray(v, float)
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)


def q8(v):
    return np.round(np.clip(v, 0, 1) * 255).astype(np.uint8)


def vec(v):
    return "<%.4f,%.4f,%.4f>" % tuple(v)


# ---- skies
KINDS = {
    # zenith, horizon (sRGB), clouds' light and dark (linear), cover, has a sun: elevation, colour, strength; what the glow around it adds
    "clear": (
        [(0.30, 0.47, 0.72)],
        [(0.66, 0.76, 0.86)],
        0.85,
        0.5,
        (0, 0.25),
        (25, 65),
        (1.08, 1.0, 0.88),
        (0.7, 1.3),
    ),
    "fair": ([(0.36, 0.52, 0.74)], [(0.74, 0.80, 0.86)], 0.9, 0.5, (0.3, 0.6), (20, 60), (1.08, 1.0, 0.88), (0.5, 1.2)),
    "overcast": (
        [(0.72, 0.74, 0.76), (0.6, 0.64, 0.68)],
        [(0.84, 0.85, 0.85)],
        0.72,
        0.42,
        (0.4, 0.9),
        None,
        None,
        None,
    ),
    "rain": ([(0.45, 0.49, 0.54), (0.36, 0.40, 0.46)], [(0.60, 0.63, 0.67)], 0.32, 0.14, (0.5, 1.0), None, None, None),
    "evening": (
        [(0.42, 0.47, 0.62), (0.55, 0.48, 0.58)],
        [(0.95, 0.72, 0.50), (0.93, 0.62, 0.55)],
        0.62,
        0.22,
        (0.2, 0.7),
        (4, 14),
        (1.2, 0.62, 0.26),
        (0.4, 1.2),
    ),
    "morning": (
        [(0.55, 0.63, 0.74)],
        [(0.92, 0.86, 0.78)],
        0.8,
        0.5,
        (0.1, 0.5),
        (8, 25),
        (1.12, 0.88, 0.62),
        (0.3, 1.0),
    ),
    "dusk": ([(0.20, 0.25, 0.42)], [(0.55, 0.45, 0.50), (0.42, 0.46, 0.58)], 0.16, 0.07, (0.2, 0.7), None, None, None),
    "storm": (
        [(0.30, 0.33, 0.38)],
        [(0.70, 0.68, 0.60)],
        0.35,
        0.08,
        (0.6, 1.0),
        (10, 40),
        (1.1, 0.95, 0.7),
        (0.0, 0.8),
    ),
}


class Sky:
    def __init__(s, rng, kind=None):
        s.kind = kind or str(rng.choice(list(KINDS)))
        zen, hor, light, dark, cover, up, colour, strong = KINDS[s.kind]
        jitter = lambda v, k: to_linear(np.clip(np.array(v) * rng.normal(1, k) * rng.normal(1, k / 3, 3), 0.02, 0.98))
        s.zenith, s.horizon = jitter(zen[rng.integers(len(zen))], 0.08), jitter(hor[rng.integers(len(hor))], 0.06)
        warm = s.kind in ("evening", "morning")
        tone = (s.horizon / s.horizon.mean()) ** (0.9 if warm else 0.2)
        s.light, s.dark = light * rng.normal(1, 0.1) * tone, dark * rng.normal(1, 0.15) * tone**0.4
        s.cover, s.rise = rng.uniform(*cover), rng.uniform(0.3, 0.8)
        s.off, s.grid = rng.uniform(-9, 9, 3), np.array([rng.uniform(0.4, 0.9), rng.uniform(0.08, 0.22), 0])
        s.grid[2] = s.grid[0]
        s.sun = None
        if up and rng.random() < (1 if s.kind != "storm" else 0.5):
            s.elevation, s.azimuth = rng.uniform(*up), rng.uniform(-180, 180)
            s.colour = np.array(colour) * rng.normal(1, 0.05, 3)
            s.sun = s.colour * rng.uniform(*strong)
        if s.sun is not None:
            e, a = math.radians(s.elevation), math.radians(s.azimuth)
            s.way = np.array([math.sin(a) * math.cos(e), math.sin(e), math.cos(a) * math.cos(e)])

    def text(s):
        out = (
            "sky_sphere{ pigment{ gradient y color_map{ [0.5 rgb %s][%.3f rgb %s][%.3f rgb %s] } scale 2 translate -y }"
            % (
                vec(s.horizon),
                0.5 + s.rise * 0.175,
                vec(s.horizon * 0.65 + s.zenith * 0.35),
                0.5 + s.rise * 0.5,
                vec(s.zenith),
            )
        )
        c, at = s.cover, "scale %s translate %s" % (vec(s.grid), vec(s.off))
        map3 = lambda steps: "".join("[%.3f rgbt <%.4f,%.4f,%.4f,%.3f>]" % (p, *v, t) for p, v, t in steps)
        out += "pigment{ bozo warp{ turbulence 0.6 octaves 7 omega 0.56 lambda 2.2 } color_map{ %s } %s }" % (
            map3(
                [
                    (0.62 - c * 0.5, s.light, 1),
                    (0.70 - c * 0.4, s.light, 0.45),
                    (0.86 - c * 0.3, s.light, 0.06),
                    (1.0, s.dark, 0),
                ]
            ),
            at,
        )
        if s.sun is not None:
            # Scattered light around the sun; it shows where the clouds are thin.
            g = np.clip(s.colour / s.colour.max(), 0, 1) * (1 - 0.4 * c)
            for power, most in ((300, 0.0), (12, 0.45)):
                out += "pigment{ function{ pow(max(0,x*%.4f+y*%.4f+z*%.4f),%d) } color_map{ %s } }" % (
                    *s.way,
                    power,
                    map3([(0, g, 1), (1, g * (1.5 if power > 99 else 1), most)]),
                )
        return out + "}"

    def dome(s, work):
        """Radiance by direction, above the horizon: directions (n, 3) and linear RGB (n, 3)."""
        im = render(work, "camera{ spherical angle 360 180 }" + s.text(), 96, 48, "dome")
        k = np.arange(LIGHTS) + 0.5
        y = k / LIGHTS
        turn = k * math.pi * (3 - math.sqrt(5))
        way = np.stack([np.sin(turn) * np.sqrt(1 - y * y), y, np.cos(turn) * np.sqrt(1 - y * y)], 1)
        lat = (0.5 - (np.arange(48) + 0.5) / 48) * math.pi
        lon = ((np.arange(96) + 0.5) / 96 - 0.5) * 2 * math.pi
        d = np.stack(
            np.broadcast_arrays(
                np.sin(lon) * np.cos(lat)[:, None], np.sin(lat)[:, None], np.cos(lon) * np.cos(lat)[:, None]
            ),
            -1,
        ).reshape(-1, 3)
        area = np.repeat(np.cos(lat), 96) * (d[:, 1] > 0)
        near = (d @ way.T).argmax(1)
        sums = np.stack([np.bincount(near, area * im[..., c].ravel(), LIGHTS) for c in range(3)], 1)
        return way, sums / np.bincount(near, area, LIGHTS)[:, None]

    def lights(s, work, k):
        way, radiance = s.dome(work)
        far = 1000
        out = "".join(
            "light_source{ %s rgb %s }" % (vec(w * far), vec(r * k * 2 / LIGHTS)) for w, r in zip(way, radiance)
        )
        out += "light_source{ <0,%d,0> rgb %s shadowless }" % (-far, vec(radiance.mean(0) * k * 0.15))
        if s.sun is not None:
            out += "light_source{ %s rgb %s area_light x*20,y*20,2,2 adaptive 1 jitter }" % (
                vec(s.way * far),
                vec(s.sun * k),
            )
        return out, radiance.mean(0)

    def told(s):
        if s.sun is None:
            return None
        a = s.azimuth
        side = ("front" if abs(a) < 60 else "behind" if abs(a) > 120 else "") + (
            "" if abs(a) < 20 or abs(a) > 160 else " right" if a > 0 else " left"
        )
        return dict(
            direction=side.strip(),
            azimuth=round(a, 1),
            elevation=round(s.elevation, 1),
            light=[round(float(v), 3) for v in s.sun],
        )


def render(work, text, w, h, name, decl=(), aa=True):
    f, o = os.path.join(work, name + ".pov"), os.path.join(work, name + ".png")
    with open(f, "w") as out:
        out.write(
            "#version 3.7;\n#ifndef(MATTE)#declare MATTE=0;#end\nglobal_settings{ assumed_gamma 1.0 max_trace_level 5 }\n#default{ finish{ ambient 0 diffuse 0.8 } }\n#declare Hill=function{ pattern{ bozo warp{ turbulence 0.7 octaves 6 omega 0.5 } scale 0.16 } }\n"
            + text
        )
    r = subprocess.run(
        ["povray", f, "+W%d" % w, "+H%d" % h, "+WT1", "+FN16", "+O" + o, "-D", "-V", "File_Gamma=1.0", "-GA", "+GF"]
        + (["+A0.05", "+R2"] if aa else ["-A"])
        + ["Declare=%s" % d for d in decl],
        cwd=work,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
    )
    if r.returncode:
        raise RuntimeError(r.stdout.decode(errors="replace")[-700:])
    im = cv2.imread(o, cv2.IMREAD_UNCHANGED)[:, :, 2::-1].astype(np.float64) / 65535
    return im


# ---- places
class Place:
    def __init__(p, rng, coast=False):
        p.rng = rng
        u = rng.uniform
        p.wet = rng.random() < 0.5 or coast
        p.view, p.high = u(38, 62), u(1.4, 4)
        p.look = math.radians(u(-4, 9))
        p.roll = float(rng.normal(0, 1.5)) if rng.random() < 0.3 else 0.0
        albedo = lambda lo=0.08, hi=0.6, sat=0.3: np.clip(u(lo, hi) * (1 + sat * rng.uniform(-1, 1, 3)), 0.02, 0.85)
        p.albedo = albedo
        out = ""
        ground = albedo(0.1, 0.35, 0.35)
        shore = u(3, 9)
        if p.wet:
            out += "plane{ y,0 %s }" % p.tex(
                "rgb %s" % vec(albedo(0.02, 0.15, 0.5) if coast else albedo(0.02, 0.06)),
                "diffuse 0.35 reflection{ 0.03,0.92 falloff 3.2 } conserve_energy",
                "average normal_map{ [1 bumps %.3f scale <1.6,1,0.42>][1 wrinkles %.3f scale <0.9,1,0.25>] }"
                % (
                    (u(0.02, 0.09), u(0.02, 0.06))
                    if not coast or rng.random() < 0.5
                    else (u(0, 0.02), u(0, 0.01))
                ),
                water=True,
            )
            if coast and rng.random() < 0.7:
                out += "box{ <-60,-1,-30>,<60,%.2f,%.2f> rotate y*%.1f %s }" % (
                    u(0.03, 0.3),
                    u(-13, -3),
                    u(-20, 20),
                    p.grain(albedo(0.1, 0.6), 0.6),
                )
            if coast and rng.random() < 0.4:
                shore = 380
            out += "box{ <-200,-1,%.2f>,<200,%.2f,400> %s }" % (shore, u(0.15, 0.5), p.grain(ground))
        else:
            shore = -6
            out += "plane{ y,0 %s }" % p.grain(ground, 0.6)
        for k in range(int(rng.integers(1, 4)) if shore < 100 else 0):
            s = int(rng.integers(1, 9999))
            out += (
                "height_field{ function 300,80 { 0.2+0.8*Hill(x+%d,y*0.3,0.2)*sin(pi*y) } smooth translate <-0.5,0,-0.5> scale <%d,%.1f,40> translate <0,-2,%d> %s }"
                % (s, 180 + 60 * k, u(4, 12) * (1 + 0.5 * k), 70 + 50 * k, p.grain(albedo(0.1, 0.35, 0.4), 6))
            )
        if rng.random() < 0.8:
            x = u(-16, -10)
            while x < 14:
                w, h, z = u(1.6, 4), u(1.3, 4.5), shore + u(1, 9)
                if rng.random() < 0.75:
                    out += p.house(x + w / 2, z, w, h)
                x += w * u(0.9, 2.2)
        for _ in range(int(rng.integers(2, 12))):
            out += p.bush(u(-14, 14), shore + u(0.5, 14), u(0.5, 2.4))
        for _ in range(int(rng.integers(0, 4))):
            out += p.bare(u(-9, 9), shore + u(0, 8), u(2, 5))
        for _ in range(int(rng.integers(0, 4))):
            x, z, t = u(-8, 8), shore + u(0, 6), p.grain(albedo())
            out += "cylinder{ <%.2f,0,%.2f>,<%.2f,%.2f,%.2f>,%.3f %s }" % (x, z, x, u(2, 7), z, u(0.02, 0.07), t)
        if not p.wet:
            for _ in range(int(rng.integers(3, 25))):
                r = u(0.1, 0.6)
                out += "sphere{ 0,1 scale %s translate <%.2f,0,%.2f> %s }" % (
                    vec([r, r * u(0.4, 1), r]),
                    u(-6, 6),
                    u(-7, 4),
                    p.grain(albedo(0.1, 0.7)),
                )
        p.text = out
        p.haze_far = math.exp(u(math.log(60), math.log(1200)))

    def tex(p, pig, fin="", nor="", water=False):
        return (
            "#if(MATTE=0) texture{ pigment{ %s } finish{ %s } %s } #else texture{ pigment{ rgb (MATTE=3 | MATTE=%d) } finish{ emission 1 diffuse 0 } } #end"
            % (pig, fin, "normal{ %s }" % nor if nor else "", 2 if water else 9)
        )

    def grain(p, a, scale=0.5):
        b = a * p.rng.uniform(0.55, 0.9)
        return p.tex(
            "granite scale %.2f color_map{ [0 rgb %s][1 rgb %s] }" % (scale, vec(a), vec(b)),
            "",
            "granite %.2f scale %.2f" % (p.rng.uniform(0, 0.6), scale * 0.4),
        )

    def house(p, x, z, w, h):
        u, wall, roof = p.rng.uniform, p.grain(p.albedo(0.12, 0.65)), p.grain(p.albedo(0.06, 0.35))
        r = u(0.4, 1.4)
        out = "box{ <%.2f,-0.3,0>,<%.2f,%.2f,4> %s }" % (-w / 2, w / 2, h, wall)
        out += (
            "prism{ linear_sweep linear_spline 0,4.3,4 <%.2f,%.2f>,<%.2f,%.2f>,<0,%.2f>,<%.2f,%.2f> rotate x*-90 scale <1,1,-1> translate -z*0.15 %s }"
            % (-w / 2 - 0.15, h, w / 2 + 0.15, h, h + r, -w / 2 - 0.15, h, roof)
        )
        for k in range(int(w / 0.9)):
            for row in range(int(h / 1.3)):
                out += "box{ <%.2f,%.2f,-0.03>,<%.2f,%.2f,0.02> %s }" % (
                    -w / 2 + 0.3 + 0.9 * k,
                    0.5 + 1.3 * row,
                    -w / 2 + 0.7 + 0.9 * k,
                    1.2 + 1.3 * row,
                    p.tex("rgb %s" % vec(p.albedo(0.02, 0.08, 0.2)), "specular 0.3 reflection 0.12"),
                )
        return "union{ %s rotate y*%.1f translate <%.2f,0.1,%.2f> }" % (out, u(-25, 25), x, z)

    def bush(p, x, z, r):
        t = p.grain(np.array([p.rng.uniform(0.04, 0.2), p.rng.uniform(0.06, 0.2), p.rng.uniform(0.01, 0.08)]), 0.3)
        return "union{ %s %s }" % (
            "".join(
                "sphere{ %s,%.3f }"
                % (vec(np.array([x, r, z]) + p.rng.normal(0, 0.4, 3) * r), r * p.rng.uniform(0.12, 0.35))
                for _ in range(60)
            ),
            t,
        )

    def bare(p, x, z, h):
        out = []

        def grow(a, d, l, r, n):
            b = a + d * l
            out.append("cone{ %s,%.4f,%s,%.4f }" % (vec(a), r, vec(b), r * 0.7))
            if n:
                for _ in range(int(p.rng.integers(2, 4))):
                    e = d + p.rng.normal(0, 0.45, 3) + [0, 0.1, 0]
                    grow(b, e / np.linalg.norm(e), l * p.rng.uniform(0.65, 0.85), max(0.006, r * 0.62), n - 1)

        grow(np.array([x, 0, z]), np.array([0, 1.0, 0]), h * 0.3, 0.04 * h, 6)
        return "union{ %s %s }" % ("".join(out), p.grain(p.albedo(0.05, 0.15, 0.2)))

    def scene(p, sky, lights):
        cam = (
            "camera{ perspective location 0 right x*%.5f up y direction z*%.5f rotate z*%.3f rotate x*%.4f translate <0,%.3f,-17> }"
            % (W / H, 0.5 * W / H / math.tan(math.radians(p.view) / 2), p.roll, -math.degrees(p.look), p.high)
        )
        return (
            cam
            + "#if(MATTE=0) %s %s #else #if(MATTE=1) background{ rgb 1 } #end #if(MATTE=3) fog{ distance %.2f rgb 0 } #end #end "
            % (sky.text(), lights, p.haze_far)
            + p.text
        )

    def horizon(p):
        """Its row in the middle of the picture, px."""
        focal = 0.5 * W / math.tan(math.radians(p.view) / 2)
        return H / 2 + focal * math.tan(p.look) / math.cos(math.radians(p.roll))


def sky_picture(work, sky):
    focal = 0.5 * SKY_W / math.tan(math.radians(SKY_VIEW) / 2)
    low = sky.low
    look = math.atan((low - 0.5) * SKY_H / focal)
    cam = "camera{ perspective location 0 right x*%.5f up y direction z*%.5f rotate x*%.4f }" % (
        SKY_W / SKY_H,
        focal / SKY_H,
        -math.degrees(look),
    )
    return render(work, cam + sky.text(), SKY_W, SKY_H, "sky"), low * SKY_H


def taken(rng, lin, deviation):
    """As a camera takes it: with grain, a standard deviation in levels."""
    grain = cv2.GaussianBlur(rng.normal(0, 1, lin.shape), (0, 0), 0.5)
    return q8(to_srgb(lin) + grain / grain.std() * deviation / 255)


def make(seed, out, coast, skies):
    rng = np.random.default_rng([77, seed])
    work = tempfile.mkdtemp(prefix="place-")
    try:
        p = Place(rng, coast)
        first = Sky(rng, str(rng.choice(["overcast", "overcast", "overcast", "rain", "fair", "clear", "morning"])))
        kinds = [k for k in KINDS if k != first.kind]
        skies = [Sky(rng, k) for k in rng.choice(kinds, skies, replace=False)]
        k = rng.uniform(0.8, 1.25)
        blur, deviation = (rng.uniform(0.5, 1.6) if rng.random() < 0.7 else 0.0), rng.uniform(0.6, 3.5)
        write = lambda name, im: cv2.imwrite(os.path.join(folder, name), im[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, 92])
        folder = os.path.join(out, "place-%d" % seed)
        mask = lambda m: render(work, p.scene(first, ""), W, H, "mask%d" % m, ["MATTE=%d" % m])[..., 0]
        alpha = mask(1)
        share = alpha.mean()
        if not 0.12 < share < 0.8:
            return print("place", seed, "passed over: sky %.2f" % share, flush=True)
        os.makedirs(folder, exist_ok=True)
        through = mask(3)
        water = mask(2) if p.wet else None
        meta = dict(
            name="place-%d" % seed,
            kind="sky-water" if p.wet else "sky-land",
            width=W,
            height=H,
            alphaMarks="sky",
            horizonY=round(p.horizon(), 1),
            tilt=round(p.roll, 2),
            photoFieldOfView=round(p.view, 1),
            share=round(float(share), 3),
            blur=round(blur, 2),
            sky=dict(width=SKY_W, height=SKY_H, fieldOfView=SKY_VIEW),
            skies=[],
        )
        airs = np.where(alpha < 0.98, through / np.maximum(1 - alpha, 0.02), 1).clip(0, 1)
        meta["haze"] = round(float((1 - airs)[alpha < 0.02].mean()), 3)
        for n, sky in enumerate([first] + skies):
            lights, mean = sky.lights(work, k)
            lin = render(work, p.scene(sky, lights), W, H, "view")
            seen = (1 - alpha)[..., None]
            lin = lin + seen * (1 - airs[..., None]) * (sky.horizon * 0.9 - lin) * (water is None or 1)
            lin = cv2.GaussianBlur(lin, (0, 0), blur) if blur > 0 else lin
            if n == 0:
                write("photo.jpg", taken(rng, lin, deviation))
                # What of the grain the file's compression leaves, where nothing else varies.
                kept = cv2.imread(os.path.join(folder, "photo.jpg"))[..., ::-1].astype(float) - 255 * to_srgb(lin)
                open_sky = cv2.erode((alpha > 0.99).astype(np.uint8), np.ones((9, 9))) > 0
                meta["grain"] = round(float((kept - cv2.GaussianBlur(kept, (0, 0), 6))[open_sky].std(0).mean()), 2)
                meta["photo"] = dict(kind=sky.kind, sun=sky.told(), domeMeanLinear=[round(float(v), 4) for v in mean])
            else:
                sky.low = rng.uniform(0.85, 1.02)
                write("truth%d.jpg" % n, taken(rng, lin, deviation))
                picture, low = sky_picture(work, sky)
                write("sky%d.jpg" % n, taken(rng, picture, rng.uniform(0.5, 2)))
                meta["skies"].append(
                    dict(
                        picture="sky%d.jpg" % n,
                        truth="truth%d.jpg" % n,
                        kind=sky.kind,
                        horizonY=round(low, 1),
                        sun=sky.told(),
                        domeMeanLinear=[round(float(v), 4) for v in mean],
                    )
                )
        soft = lambda a: q8(cv2.GaussianBlur(a, (0, 0), blur) if blur > 0 else a)
        cv2.imwrite(os.path.join(folder, "alpha.png"), soft(alpha))
        if water is not None:
            cv2.imwrite(os.path.join(folder, "water.png"), soft(water))
        with open(os.path.join(folder, "meta.json"), "w") as f:
            json.dump(meta, f, indent=1)
        print("place", seed, meta["kind"], first.kind, [s.kind for s in skies], flush=True)
    finally:
        shutil.rmtree(work, ignore_errors=True)


def draw(make, usual):
    """What the command line asks for: make(seed, folder, coast, skies) for each seed. usual: the seeds where none are given."""
    asked = argparse.ArgumentParser()
    asked.add_argument("--out", required=True)
    asked.add_argument("--seeds", default=usual)
    asked.add_argument("--jobs", type=int, default=1)
    asked.add_argument("--coast", action="store_true")
    asked.add_argument("--skies", type=int, default=3)
    a = asked.parse_args()
    os.makedirs(a.out, exist_ok=True)
    low, high = map(int, a.seeds.split("-"))
    with ThreadPoolExecutor(a.jobs) as pool:
        list(pool.map(lambda s: make(s, a.out, a.coast, a.skies), range(low, high + 1)))


if __name__ == "__main__":
    draw(make, "1-6")
