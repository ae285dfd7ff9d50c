#!/usr/bin/python3
"""Photographs as training sees them: small copies with what was marked on them by hand (photographs.json: outlines as shares of width and height; `water`
but for `but`; `subject` loosely, `solid` where a graph cut makes it exact, else it is what is no sky; those that are `plain` have no water).
photographs.py OUT [SHOWN.png]     OUT/<name>.npz: V the picture; S coverage of its main thing, where it has one; W of water; Y the height of the
horizon (share), where it is known. `unsure` ones are backdrops only.
"""
import json, os, subprocess, sys, tempfile
import numpy as np, cv2

HERE = os.path.dirname(os.path.abspath(__file__))
HEIGHT = 360


def area(outlines, h, w):
    out = np.zeros((h, w), np.uint8)
    for line in outlines:
        corners = [[float(v) for v in corner.split(",")] for corner in line.split()]
        cv2.fillPoly(out, [np.int32(np.array(corners) * [w, h])], 255)
    return out


def without_sky(file, inside):
    """Of a loosely drawn thing what the application's own finder does not take for sky."""
    with tempfile.TemporaryDirectory() as folder:
        recipe, out = folder + "/recipe.json", folder + "/sky.png"
        json.dump({"version": 1, "steps": [{"kind": "sky"}]}, open(recipe, "w"))
        subprocess.run([HERE + "/../bin/wily", "select", file, "--recipe", recipe, "--out", out], check=True, capture_output=True)
        sky = cv2.resize(cv2.imread(out, 0), inside.shape[::-1], interpolation=cv2.INTER_AREA)
    return cv2.min(inside, 255 - sky)


def cut(im, inside):
    """Of a loosely drawn thing what an ordinary graph cut leaves of it."""
    grown = lambda r: cv2.dilate(inside, np.ones((r, r), np.uint8)) > 0
    sure = cv2.erode(inside, np.ones((25, 25), np.uint8)) > 0
    told = np.where(sure, 1, np.where(inside > 0, 3, np.where(grown(31), 2, 0))).astype(np.uint8)
    cv2.grabCut(im, told, None, np.zeros((1, 65)), np.zeros((1, 65)), 4, cv2.GC_INIT_WITH_MASK)
    return cv2.GaussianBlur((told % 2) * np.uint8(255), (0, 0), 0.7)


if __name__ == "__main__":
    out, shown = sys.argv[1], []
    os.makedirs(out, exist_ok=True)
    list_ = json.load(open(HERE + "/photographs.json"))
    marks = {**{n: {} for n in list_["plain"]}, **{n: {"unsure": True} for n in list_["unsure"]}, **list_["marked"]}
    for name, e in marks.items():
        file = list_["folder"] + name
        im = cv2.imread(file)
        h, w = HEIGHT, round(im.shape[1] * HEIGHT / im.shape[0])
        im = cv2.resize(im, (w, h), interpolation=cv2.INTER_AREA)
        kept = {"V": im[..., ::-1]}
        if "subject" in e:
            inside = area([e["subject"]], h, w)
            kept["S"] = cut(im, inside) if e.get("solid") else without_sky(file, inside)
        if "unsure" not in e:
            kept["W"] = cv2.subtract(area(e.get("water", []), h, w), area(e.get("but", []), h, w))
        if "horizon" in e:
            kept["Y"] = e["horizon"]
        np.savez_compressed(out + "/" + os.path.basename(name)[:-4] + ".npz", **kept)
        if "S" in kept or e.get("water"):
            t = im.copy()
            t[..., 2] = np.maximum(t[..., 2], kept.get("S", np.zeros((h, w), np.uint8)))
            t[..., 0] = np.maximum(t[..., 0], kept.get("W", np.zeros((h, w), np.uint8)))
            shown.append(cv2.resize(t, (400, 200)))
    if len(sys.argv) > 2:
        shown += [np.zeros_like(shown[0])] * (-len(shown) % 4)
        cv2.imwrite(sys.argv[2], np.vstack([np.hstack(shown[i : i + 4]) for i in range(0, len(shown), 4)]))
