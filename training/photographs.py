#!/usr/bin/python3
"""Photographs as training sees them: small copies with what was marked on them by hand (photographs.json: outlines as shares of width and height; `water`
but for `but`; `subject` loosely, `solid` where a graph cut makes it exact, else it is what is no sky; those that are `plain` have no water; `sky`: the
line where it ends, from left to right, made exact by a graph cut, or true where what the application's own finder takes is right to the eye, or "" without
any; `skyMeasured` the same of photographs that are shared alike only (CC-BY-SA) and so for measuring alone; `horizon`: its row in the middle, as a share of the
height, by eye, to about a hundredth, where it can be told. things.json: `thing`, what it shows: its outlines and its holes).
photographs.py OUT [SHOWN.png]     OUT/<name>.npz: V the picture; S coverage of its main thing, where it has one; W of water, K of sky, Y the horizon's row as a
share of the height, where they are known.
`unsure` ones are backdrops only. Every third of the things and of the skies is kept for measuring:
photographs.py --scenes FOLDER     those things, as ../quality reads scenes, with hints made up.
photographs.py --skies FOLDER      those skies: NAME.jpg and NAME.png, its coverage.
"""
import json, os, struct, subprocess, sys, tempfile, zlib
import numpy as np, cv2

HERE = os.path.dirname(os.path.abspath(__file__))
HEIGHT = 360


def area(outlines, h, w):
    out = np.zeros((h, w), np.uint8)
    for line in outlines:
        corners = [[float(v) for v in corner.split(",")] for corner in line.split()]
        cv2.fillPoly(out, [np.int32(np.array(corners) * [w, h])], 255)
    return out


def found_sky(file, size):
    """What the application's own finder takes for sky."""
    with tempfile.TemporaryDirectory() as folder:
        recipe, out = folder + "/recipe.json", folder + "/sky.png"
        json.dump({"version": 1, "steps": [{"kind": "sky"}]}, open(recipe, "w"))
        subprocess.run([HERE + "/../bin/wily", "select", file, "--recipe", recipe, "--out", out], check=True, capture_output=True)
        return cv2.resize(cv2.imread(out, 0), size, interpolation=cv2.INTER_AREA)


def sky(file, told, im):
    """Where a small copy of a photograph shows sky. told: the line where that ends, or true, or ""."""
    h, w = im.shape[:2]
    if told is True:
        return found_sky(file, (w, h))
    return cut(im, area([told + " 1,0 0,0"], h, w)) if told else np.zeros((h, w), np.uint8)


def small(file):
    im = cv2.imread(file)
    return cv2.resize(im, (round(im.shape[1] * HEIGHT / im.shape[0]), HEIGHT), interpolation=cv2.INTER_AREA)


def cut(im, inside):
    """Of a loosely drawn thing what an ordinary graph cut leaves of it."""
    grown = lambda r: cv2.dilate(inside, np.ones((r, r), np.uint8)) > 0
    sure = cv2.erode(inside, np.ones((25, 25), np.uint8)) > 0
    told = np.where(sure, 1, np.where(inside > 0, 3, np.where(grown(31), 2, 0))).astype(np.uint8)
    cv2.grabCut(im, told, None, np.zeros((1, 65)), np.zeros((1, 65)), 4, cv2.GC_INIT_WITH_MASK)
    return cv2.GaussianBlur((told % 2) * np.uint8(255), (0, 0), 0.7)


def packed(file):
    """The files in a file of Qt resources, by path. Source: Qt, rcc.cpp (a tree of nodes; names in UTF-16, behind their length and hash)."""
    b = open(file, "rb").read()
    version, tree, data, names = struct.unpack(">4I", b[4:20])
    out = {}

    def walk(i, path):
        at = tree + i * (22 if version > 1 else 14)
        name, flags, first, second = struct.unpack(">IHII", b[at : at + 14])
        if i:
            (length,) = struct.unpack(">H", b[names + name : names + name + 2])
            path += "/" + b[names + name + 6 : names + name + 6 + 2 * length].decode("utf-16-be")
        if flags & 2:
            for k in range(second, second + first):
                walk(k, path)
            return
        (size,) = struct.unpack(">I", b[data + second : data + second + 4])
        kept = b[data + second + 4 : data + second + 4 + size]
        out[path] = zlib.decompress(kept[4:]) if flags & 1 else kept

    walk(0, "")
    return out


def things(measured):
    """Photographs of one thing each: their names, the picture, coverage of the thing. measured: those that nothing is trained on."""
    list_ = json.load(open(HERE + "/things.json"))
    kept = {part: packed(list_["folder"] + part + ".rcc") for part in {name.split("/")[0] for name in list_["things"]}}
    for n, (name, e) in enumerate(list_["things"].items()):
        if (n % 3 == 0) != measured:
            continue
        part = name.split("/")[0]
        (file,) = [f for f in kept[part] if f.rsplit(".", 1)[0].endswith("/" + name)]
        im = cv2.imdecode(np.frombuffer(kept[part][file], np.uint8), cv2.IMREAD_COLOR)
        k = (900 if measured else 480) / max(im.shape[:2])
        im = cv2.resize(im, None, fx=k, fy=k, interpolation=cv2.INTER_CUBIC if k > 1 else cv2.INTER_AREA)
        h, w = im.shape[:2]
        lines = [np.int32(np.array([[float(v) for v in c.split(",")] for c in line.split()]) * [w * 16, h * 16] - 8) for line in e["thing"]]
        inside = np.zeros((h, w), np.uint8)
        cv2.fillPoly(inside, lines, 255, cv2.LINE_AA, 4)
        yield name.rsplit("/", 1)[1], im, inside


def scene(rng, folder, name, im, inside):
    """A scene of a photograph: a box up to an eighth larger on each side, three places on the thing and four beside it."""
    os.makedirs(folder, exist_ok=True)
    cv2.imwrite(folder + "/photo.jpg", im, [cv2.IMWRITE_JPEG_QUALITY, 92])
    cv2.imwrite(folder + "/alpha.png", inside)
    (h, w), thing = inside.shape, (inside > 127).astype(np.uint8)
    ys, xs = np.nonzero(thing)
    x0, y0, x1, y1 = (int(v) for v in (xs.min(), ys.min(), xs.max() + 1, ys.max() + 1))
    left, top, right, bottom = rng.uniform(0.02, 0.12, 4) * [x1 - x0, y1 - y0, x1 - x0, y1 - y0]
    within = cv2.distanceTransform(np.pad(thing, 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    beyond = cv2.distanceTransform(1 - thing, cv2.DIST_L2, 5)
    places = lambda where, count: [[int(v) for v in p[::-1]] for p in rng.permutation(np.argwhere(where))[:count]]
    hints = dict(
        inside=places(within > 0.5 * within.max(), 1) + places(within > 0.3 * within.max(), 2),
        outside=places(beyond > 12, 4),
        roughBox=[int(v) for v in (max(0, x0 - left), max(0, y0 - top), min(w, x1 + right), min(h, y1 + bottom))],
    )
    meta = dict(name=name, kind="solid", family="photograph", width=w, height=h, subject=[x0, y0, x1, y1], hints=hints)
    json.dump(meta, open(folder + "/meta.json", "w"), indent=1)


if __name__ == "__main__":
    if sys.argv[1] == "--scenes":
        for n, (name, im, inside) in enumerate(things(True)):
            scene(np.random.default_rng(n), sys.argv[2] + "/" + name, name, im, inside)
        sys.exit()
    if sys.argv[1] == "--skies":
        list_ = json.load(open(HERE + "/photographs.json"))
        os.makedirs(sys.argv[2], exist_ok=True)
        known, only = list_["sky"], list_["skyMeasured"]
        for name, told in [(n, known[n]) for n in list(known)[::3]] + list(only.items()):
            file, to = list_["folder"] + name, sys.argv[2] + "/" + os.path.basename(name)[:-4]
            cv2.imwrite(to + ".png", sky(file, told, small(file)))
            if not os.path.exists(to + ".jpg"):
                os.symlink(file, to + ".jpg")
        sys.exit()
    out, shown = sys.argv[1], []
    os.makedirs(out, exist_ok=True)
    list_ = json.load(open(HERE + "/photographs.json"))
    marks = {**{n: {} for n in list_["plain"]}, **{n: {"unsure": True} for n in list_["unsure"]}, **list_["marked"]}
    measured = list(list_["sky"])[::3]
    for name, e in marks.items():
        file = list_["folder"] + name
        im = small(file)
        h, w = im.shape[:2]
        kept = {"V": im[..., ::-1]}
        if "subject" in e:
            inside = area([e["subject"]], h, w)
            kept["S"] = cut(im, inside) if e.get("solid") else cv2.min(inside, 255 - found_sky(file, (w, h)))
        if "unsure" not in e and name not in measured:
            kept["W"] = cv2.subtract(area(e.get("water", []), h, w), area(e.get("but", []), h, w))
        if name in list_["horizon"] and name not in measured:
            kept["Y"] = list_["horizon"][name]
        if name in list_["sky"] and name not in measured:
            kept["K"] = sky(file, list_["sky"][name], im)
        np.savez_compressed(out + "/" + os.path.basename(name)[:-4] + ".npz", **kept)
        if len(kept) > 1:
            t = im.copy()
            t[..., 1] = np.maximum(t[..., 1], kept.get("K", np.zeros((h, w), np.uint8)))
            t[..., 2] = np.maximum(t[..., 2], kept.get("S", np.zeros((h, w), np.uint8)))
            t[..., 0] = np.maximum(t[..., 0], kept.get("W", np.zeros((h, w), np.uint8)))
            shown.append(cv2.resize(t, (400, 200)))
    for name, im, inside in things(False):
        np.savez_compressed(out + "/thing-" + name + ".npz", V=im[..., ::-1], S=inside)
        t = im.copy()
        t[..., 2] = np.maximum(t[..., 2], inside)
        shown.append(cv2.resize(t, (400, 200)))
    if len(sys.argv) > 2:
        shown += [np.zeros_like(shown[0])] * (-len(shown) % 4)
        cv2.imwrite(sys.argv[2], np.vstack([np.hstack(shown[i : i + 4]) for i in range(0, len(shown), 4)]))
