#!/usr/bin/python3
"""Pictures with exact cut-outs, from a family and a seed, as the quality bench reads them.
generate.py --out FOLDER FAMILY SEED [FAMILY SEED ...]     folders FOLDER/<family>-<seed>/
generate.py --out FOLDER --all --seeds 1-6                 every family, seeds 1 to 6
"""
import argparse, os, shutil, sys, tempfile, time

sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
import core, monuments

FAMILIES = monuments.FAMILIES


def drawn(family, seed, turn):
    """The scene of a seed; `turn` counts how often it has failed its own checks and was drawn again."""
    work = tempfile.mkdtemp(prefix="scene-")
    try:
        at = seed + 1000003 * turn
        c = core.Ctx(family, at, "open", work, list(FAMILIES).index(family) + len(FAMILIES) * at)
        c.seed, c.near, c.backmean = seed, False, None
        s = FAMILIES[family](c)
        light = (s["lin"], s["alpha"], s["others"]) if "lin" in s else core.compose(c, s)
        return c, s, light
    finally:
        shutil.rmtree(work, ignore_errors=True)


def make(family, seed, out):
    for turn in range(6):
        try:
            c, s, (lin, alpha, others) = drawn(family, seed, turn)
            folder = os.path.join(out, "%s-%d" % (family, seed))
            return core.finish(c, folder, lin, alpha, others, s["kind"], s["difficulty"])
        except (RuntimeError, AssertionError) as e:
            print("   again:", family, seed, e, flush=True)
    raise SystemExit("gave up: %s %d" % (family, seed))


if __name__ == "__main__":
    asked = argparse.ArgumentParser()
    asked.add_argument("--out", required=True)
    asked.add_argument("--all", action="store_true")
    asked.add_argument("--seeds", default="1-3")
    asked.add_argument("pairs", nargs="*")
    a = asked.parse_args()
    low, high = map(int, a.seeds.split("-"))
    every = [(f, s) for s in range(low, high + 1) for f in FAMILIES]
    for family, seed in every if a.all else zip(a.pairs[::2], map(int, a.pairs[1::2])):
        started = time.time()
        m = make(family, seed, a.out)
        print(
            "%-10s %5d  share %.3f  %-6s  %.1f s" % (family, seed, m["share"], m["kind"], time.time() - started),
            flush=True,
        )
