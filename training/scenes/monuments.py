"""One more family: large buildings of stone, in bays, with porches, towers and domes, on a lawn or a square with trees before them."""
import math
import numpy as np
from core import *
from families import setup, side
from more import landscape, roof, wall
from assemblies import tree_geo, FAMILIES as GIVEN

# Colours of stone, linear: marble, limestone, sandstone, yellow and red plaster, granite, what has weathered.
STONES = [
    (0.7, 0.68, 0.62),
    (0.55, 0.47, 0.35),
    (0.45, 0.27, 0.14),
    (0.6, 0.42, 0.16),
    (0.34, 0.11, 0.07),
    (0.25, 0.24, 0.24),
    (0.12, 0.105, 0.09),
]
# And of roofs: copper, slate, tiles, lead, gold.
ROOFS = [
    (0.14, 0.38, 0.28),
    (0.06, 0.07, 0.09),
    (0.32, 0.1, 0.05),
    (0.28, 0.29, 0.3),
    (0.55, 0.36, 0.07),
    (0.3, 0.04, 0.05),
]


def stone(c, a):
    """Stone of about a colour: stained, in courses or rough."""
    a = np.array(a) * c.u(0.75, 1.25) * c.rng.uniform(0.93, 1.07, 3)
    b = a * c.u(0.6, 0.95)
    k = c.pick("stained", "stained", "courses", "rough", "plain")
    if k == "stained":
        return c.tex(
            "bozo turbulence .8 color_map{[.2 %s][.9 %s]} scale <%.2f,%.2f,%.2f>"
            % (c.rgb(a), c.rgb(b), c.u(0.2, 1), c.u(0.4, 2), c.u(0.2, 1))
        )
    if k == "courses":
        return c.tex(
            "brick %s, %s brick_size <%.2f,%.3f,%.2f> mortar .01"
            % (c.rgb(b * 0.8), c.rgb(a), c.u(0.15, 0.4), c.u(0.06, 0.15), c.u(0.1, 0.3))
        )
    if k == "rough":
        return c.tex(
            "granite color_map{[0 %s][1 %s]} scale %.2f" % (c.rgb(a), c.rgb(b), c.u(0.3, 2)),
            "",
            "granite %.2f scale %.2f" % (c.u(0.05, 0.3), c.u(0.2, 0.8)),
        )
    return c.tex(c.rgb(a))


def dome(c, x, y, z, r, tx, ribs):
    """A dome on a drum, with a lantern and a spike."""
    drum, k = r * c.u(0.3, 0.9), c.u(0.85, 1.6)
    top = y + drum + r * k
    out = "cylinder{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (x, y, z, x, y + drum, z, r * 0.95, ribs)
    out += "".join(
        "cylinder{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}"
        % (
            x + r * math.cos(a),
            y,
            z + r * math.sin(a),
            x + r * math.cos(a),
            y + drum,
            z + r * math.sin(a),
            r * 0.07,
            ribs,
        )
        for a in np.arange(0, 2 * math.pi, math.pi / 8)
    )
    out += "sphere{0,1 scale <%.3f,%.3f,%.3f> translate <%.3f,%.3f,%.3f> %s}" % (r, r * k, r, x, y + drum, z, tx)
    out += "cylinder{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (
        x,
        top - 0.03,
        z,
        x,
        top + r * 0.3,
        z,
        r * 0.14,
        ribs,
    )
    return out + "cone{<%.3f,%.3f,%.3f>,%.3f,<%.3f,%.3f,%.3f>,.005 %s}" % (
        x,
        top + r * 0.3,
        z,
        r * 0.1,
        x,
        top + r * 0.95,
        z,
        tx,
    )


def palace_geo(c):
    main = STONES[c.rng.integers(len(STONES))]
    tx, trim = stone(c, main), stone(c, main if c.chance(0.6) else STONES[c.rng.integers(len(STONES))])
    rf = stone(c, ROOFS[c.rng.integers(len(ROOFS))])
    dark = c.tex(c.rgb(rand_col(c.rng, 0.004, 0.05, 0.4)), c.pick("", "", "reflection .15"))
    bays, storeys = int(c.rng.integers(5, 14)), int(c.rng.integers(1, 4))
    c.win, c.storey, c.wide, c.high, c.arch = (
        c.u(0.3, 0.5),
        c.u(0.5, 0.8),
        c.u(0.35, 0.7),
        c.u(0.4, 0.7),
        c.chance(0.65),
    )
    w, h, d = bays * c.win, storeys * c.storey, c.u(0.8, 2)
    front = -d / 2
    out, top = wall(c, -w / 2, w / 2, 0, h, front, d / 2, tx, trim, dark), h
    if c.chance(0.5):
        out += "".join(
            "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (x, h, front, x + 0.05, h + 0.12, front + 0.05, trim)
            for x in np.arange(-w / 2, w / 2, 0.1)
        )
        out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
            -w / 2,
            h + 0.12,
            front,
            w / 2,
            h + 0.15,
            front + 0.06,
            trim,
        )
    else:
        out += roof(c, -w / 2, w / 2, h, front, d / 2, rf)
        top = h + 0.5
    if c.chance(0.75):  # a middle that stands out, with a dome, a gable or an arch as high as it
        mw, mh, z0 = w * c.u(0.15, 0.35), h * c.u(1.0, 1.5), front - c.u(0.1, 0.5)
        out += wall(c, -mw / 2, mw / 2, 0, mh, z0, d * 0.4, c.pick(tx, trim), trim, dark)
        if c.chance(0.6):
            r, y = mw * c.u(0.14, 0.3), mh * 0.55
            out += "box{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f> %s} cylinder{<0,%.3f,%.3f>,<0,%.3f,%.3f>,%.3f %s}" % (
                -r,
                z0 - 0.02,
                r,
                y,
                z0 + 0.1,
                dark,
                y,
                z0 - 0.02,
                y,
                z0 + 0.1,
                r,
                dark,
            )
        if c.chance(0.5):
            out += dome(c, 0, mh, 0, mw * c.u(0.3, 0.5), rf, trim)
            top = mh + mw
        else:
            out += (
                "prism{linear_sweep linear_spline 0,%.3f,4,<%.3f,0>,<%.3f,0>,<0,%.3f>,<%.3f,0> rotate x*-90 translate <0,%.3f,%.3f> %s}"
                % (d * 0.5, -mw * 0.55, mw * 0.55, mw * c.u(0.15, 0.3), -mw * 0.55, mh, z0 + d * 0.5, trim)
            )
            top = max(top, mh + 0.3)
        if c.chance(0.6):  # columns before it
            n, r = int(c.rng.integers(4, 9)), c.u(0.03, 0.07)
            for i in range(n):
                x = -mw / 2 + (i + 0.5) * mw / n
                out += "cylinder{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (
                    x,
                    z0 - 0.25,
                    x,
                    mh * 0.8,
                    z0 - 0.25,
                    r,
                    trim,
                )
            out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
                -mw / 2,
                mh * 0.8,
                z0 - 0.35,
                mw / 2,
                mh * 0.9,
                z0 + 0.05,
                trim,
            )
    places = [0.5] if c.chance(0.6) else [0.5, c.u(0.2, 0.35)] if c.chance(0.5) else []
    for k in places:  # towers, in pairs
        tw, th, round_ = w * c.u(0.05, 0.11), h * c.u(1.1, 2.2), c.chance(0.35)
        cap = c.pick("dome", "cone", "open")
        for sx in (-1, 1):
            x, z = sx * w * k, front + c.u(-0.02, 0.02)
            if round_:
                out += "cylinder{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (x, z, x, th, z, tw, tx)
            else:
                out += wall(c, x - tw, x + tw, 0, th, z - tw, z + tw, tx, trim, dark)
            if cap == "dome":
                out += dome(c, x, th, z, tw * 0.9, rf, trim)
            elif cap == "cone":
                out += "cone{<%.3f,%.3f,%.3f>,%.3f,<%.3f,%.3f,%.3f>,0 %s}" % (
                    x,
                    th,
                    z,
                    tw * 1.2,
                    x,
                    th + tw * c.u(1.5, 5),
                    z,
                    rf,
                )
            else:
                out += "".join(
                    "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}"
                    % (
                        x + a * tw * 0.8 - 0.03,
                        th,
                        z + b * tw * 0.8 - 0.03,
                        x + a * tw * 0.8 + 0.03,
                        th + tw,
                        z + b * tw * 0.8 + 0.03,
                        trim,
                    )
                    for a in (-1, 1)
                    for b in (-1, 1)
                )
                out += dome(c, x, th + tw, z, tw * 0.95, rf, trim)
            top = max(top, th + 2 * tw)
    if c.chance(0.5):
        out += "box{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
            -w * 0.56,
            front - 0.7,
            w * 0.56,
            c.u(0.04, 0.15),
            d * 0.6,
            trim,
        )
    return "union{%s}" % out, top, w


def green(c):
    return c.tex(
        "bozo turbulence .5 color_map{[0 %s][1 %s]} scale .1"
        % (
            c.rgb([c.u(0.01, 0.08), c.u(0.04, 0.16), c.u(0.005, 0.04)]),
            c.rgb([c.u(0.04, 0.2), c.u(0.1, 0.3), c.u(0.01, 0.06)]),
        ),
        "",
        "bumps .6 scale .05",
    )


def before(c, s, w, h):
    """What stands before a building: trees and hedges, lamps, people."""
    s["others"] = []
    c.role = "O"
    put = lambda geo, x, z: s["others"].append(("union{%s translate %s}" % (geo, vec(side(s, x, z))), "occluder"))
    for _ in range(int(c.rng.integers(0, 5))):
        x, z, k = c.u(-0.7, 0.7) * w, -c.u(0.35, 0.7) * w, c.pick("tree", "bush", "hedge", "lamp", "people", "people")
        if k == "tree":
            q = h * c.u(0.12, 0.3)
            put("union{%s scale %.3f}" % (tree_geo(c), q), x, z)
        elif k == "bush":
            put(
                "".join(
                    "sphere{%s,%.3f %s}"
                    % (vec(c.rng.normal(0, 0.06 * h, 3) + [0, 0.06 * h, 0]), c.u(0.03, 0.09) * h, green(c))
                    for _ in range(6)
                ),
                x,
                z,
            )
        elif k == "hedge":
            l, q = c.u(0.1, 0.5) * w, c.u(0.02, 0.07) * h
            put("superellipsoid{<.2,.2> scale <%.3f,%.3f,%.3f> %s}" % (l, q, q, green(c)), x, z)
        elif k == "lamp":
            q = c.u(0.25, 0.6) * h
            tx = c.tex(c.rgb([0.03, 0.03, 0.03]))
            put("cylinder{0,y*%.3f,%.3f %s} sphere{y*%.3f,%.3f %s}" % (q, 0.012 * h, tx, q, 0.03 * h, tx), x, z)
        else:
            for _ in range(int(c.rng.integers(1, 6))):
                q = 0.035 * h
                put(
                    "sphere{0,1 scale <%.3f,%.3f,%.3f> translate y*%.3f %s} sphere{y*%.3f,%.3f %s}"
                    % (
                        0.4 * q,
                        q,
                        0.3 * q,
                        q,
                        c.mat(["matte"], uv=False),
                        2.2 * q,
                        0.3 * q,
                        c.tex(c.rgb([0.3, 0.18, 0.12])),
                    ),
                    x + c.u(-0.1, 0.1) * w,
                    z,
                )
    c.role = "S"


def palace(c):
    s = setup(c, 2.2, 1.6, el=(-0.04, 0.25), kinds=["photo", "plain", "plain"], table=0, near=0)
    if c.chance(0.75):
        s["B"], s["backdrop_kind"] = landscape(c), "plain"
    s["subject"], h, w = palace_geo(c)
    s["at"], s["radius"], s["dist"] = [0, h / 2, 0], w * 0.6, max(h, w) * c.u(1.2, 2.6)
    s["size"], s["maxext"] = math.exp(c.u(math.log(0.15), math.log(0.75))), c.u(0.85, 1.4)
    before(c, s, w, h)
    s.setdefault("kind", "solid")
    s["difficulty"] = "dark doors and windows, shaded sides, roofs of another colour, what stands before it"
    return s


FAMILIES = dict(GIVEN, palace=palace)
