#!/usr/bin/python3
"""Draws scenes at a third of their size, as layers that training puts together anew each time.
layers.py OUT FIRST_SEED COUNT [FAMILY ...]     OUT/<family>-<seed>.npz
Colours are square roots of linear light, 0-255: P the things (times their coverage A), B what lies behind; M the coverage of
what is wanted, O of the other things.
"""
import os, sys

os.environ["DRAFT"] = "1"
sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "scenes"))
import numpy as np
from generate import FAMILIES, drawn

# Other seeds than anything that is measured on.
FIRST = 5000


def light(linear):
    return (np.sqrt(np.clip(linear, 0, 1)) * 255 + 0.5).astype(np.uint8)


def share(coverage):
    return (np.clip(coverage, 0, 1) * 255 + 0.5).astype(np.uint8)


def draw(family, seed, out):
    file = os.path.join(out, "%s-%d.npz" % (family, seed))
    for turn in range(4):
        if os.path.exists(file):
            return
        try:
            c, _, (_, _, others) = drawn(family, FIRST + seed, turn)
            P, A, M, B = c.layers
            if (M > 0.5).mean() < 0.006:
                continue
            O = others[0] if others else np.zeros_like(M)
            np.savez_compressed(file, P=light(P), A=light(A), M=share(M), O=share(O), B=light(B))
        except (RuntimeError, AssertionError) as e:
            print("again:", family, seed, str(e)[-200:], flush=True)


if __name__ == "__main__":
    out, first, count = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
    os.makedirs(out, exist_ok=True)
    for seed in range(first, first + count):
        for family in sys.argv[4:] or FAMILIES:
            draw(family, seed, out)
