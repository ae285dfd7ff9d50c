#!/usr/bin/python3
"""Draws things lit from one side and from the other, cut out, for measuring how near light from a side brings the one to the other.
sides.py OUT FIRST_SEED COUNT [FAMILY ...]     OUT/<family>-<seed>-<0 or 1>.png, OUT/sides.json (where each light is, radians: negative is left)
"""
import json, os, sys

os.environ["DRAFT"] = "1"
sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "../scenes"))
import cv2, numpy as np
from generate import drawn

FAMILIES = "furball vase fruit creature figure tools blocks assembly cloth chair statue vehicle lantern".split()
# What is drawn twice must be the same thing: coverage may differ by this at most.
SAME = 0.2


def cut_out(family, seed, side):
    os.environ["SIDE"] = side
    c, _, _ = drawn(family, seed, 0)
    P, A = c.layers[:2]
    lin = np.clip(P / np.maximum(A, 1e-3)[..., None], 0, 1)
    srgb = np.where(lin <= 0.0031308, lin * 12.92, 1.055 * lin ** (1 / 2.4) - 0.055)
    return (np.dstack([srgb[..., ::-1], A]) * 255 + 0.5).clip(0, 255).astype(np.uint8), c.side


if __name__ == "__main__":
    out, first, count = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
    os.makedirs(out, exist_ok=True)
    sides = {}
    for family in sys.argv[4:] or FAMILIES:
        for seed in range(first, first + count):
            try:
                (one, a), (other, b) = (cut_out(family, seed, side) for side in ("1", "-1"))
            except (RuntimeError, AssertionError) as e:
                print("not drawn:", family, seed, str(e)[-100:], flush=True)
                continue
            if one.shape == other.shape and np.abs(one[..., 3] / 255.0 - other[..., 3] / 255.0).max() <= SAME:
                name = "%s-%d" % (family, seed)
                for k, picture in enumerate((one, other)):
                    cv2.imwrite(os.path.join(out, "%s-%d.png" % (name, k)), picture)
                sides[name] = [a, b]
                json.dump(sides, open(os.path.join(out, "sides.json"), "w"))
