"""Families that are like nothing in particular: things put together at random, thin frames, creatures and trees."""
import math
import numpy as np
from core import *
from families import alikes, occluder
from more import outdoors, FAMILIES as GIVEN


# ---- parts of no name, each grown on another
def part(c, size, tx):
    """One solid of about the given half extents, standing on y = 0, and how high it is."""
    x, y, z = size
    k = c.pick("round", "round", "lathe", "lathe", "block", "drum", "spike", "ring", "blob")
    if k == "round":
        return (
            "superellipsoid{<%.2f,%.2f> scale <%.3f,%.3f,%.3f> translate y*%.3f %s}"
            % (c.u(0.1, 1), c.u(0.1, 1), x, y, z, y, tx),
            2 * y,
        )
    if k == "lathe":
        t = np.linspace(0, 1, 9)
        r = np.interp(np.linspace(0, 1, 24), t, np.abs(c.rng.normal(0.6, 0.3, 9)) + 0.06)
        r[0] = r[-1] = 0.01
        return (
            revolve(
                np.stack([r, np.linspace(0, 2 * y, 24)], 1),
                tx,
                40,
                (lambda a, b: 1 + 0.08 * np.sin(8 * a)) if c.chance(0.2) else None,
            ).replace("mesh2", "object{mesh2", 1)
            + " scale <%.3f,1,%.3f>}" % (x, z),
            2 * y,
        )
    if k == "block":
        return "box{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f> %s}" % (-x, -z, x, 2 * y, z, tx), 2 * y
    if k == "drum":
        return (
            "cylinder{0,y*%.3f,1 scale <%.3f,1,%.3f> %s}" % (2 * y, x, z, tx)
            if c.chance(0.6)
            else "cylinder{<%.3f,%.3f,0>,<%.3f,%.3f,0>,%.3f %s}" % (-x, y, x, y, y, tx)
        ), 2 * y
    if k == "spike":
        return "cone{0,1,y*%.3f,%.2f scale <%.3f,1,%.3f> %s}" % (2 * y, c.u(0, 0.6), x, z, tx), 2 * y
    if k == "ring":
        r = min(x, y)
        return (
            "torus{%.3f,%.3f rotate x*90 rotate y*%.0f translate y*%.3f %s}"
            % (r * 0.8, r * c.u(0.1, 0.3), c.u(0, 180), r, tx),
            2 * r,
        )
    out = "".join(
        "sphere{%s,%.3f %s}"
        % (vec([c.u(-0.6, 0.6) * x, c.u(0.3, 1.5) * y, c.u(-0.6, 0.6) * z]), c.u(0.3, 0.6) * min(x, y, z), tx)
        for _ in range(int(c.rng.integers(4, 12)))
    )
    return out, 1.8 * y


def assembly_geo(c):
    """A stack of parts of one to four stuffs, with smaller ones at its sides, often in pairs; in all 2 high."""
    stuffs = [c.mat(uv=False) for _ in range(int(c.rng.integers(1, 5)))]
    even = c.chance(0.7)
    out, y = "", 0.0
    for i in range(int(c.rng.integers(1, 5))):
        w = c.u(0.15, 0.8)
        size = (w, c.u(0.12, 0.6), w * c.u(0.5, 1.4))
        body, h = part(c, size, c.pick(*stuffs))
        out += "union{%s translate y*%.3f}" % (body, y)
        for _ in range(int(c.rng.integers(0, 4))):
            tx, s = c.pick(*stuffs), [c.u(0.05, 0.4) * (0.5 if c.chance(0.5) else 1) for _ in range(3)]
            at = [w * c.u(0.6, 1.15), y + h * c.u(0, 0.9), size[2] * c.u(-0.8, 0.8)]
            turn = "rotate <%.0f,%.0f,%.0f>" % (c.u(-60, 60), c.u(0, 360), c.u(-100, 40))
            if c.chance(0.3):  # an arm, a cable, a handle
                far = [at[0] + c.u(0.1, 0.8), at[1] + c.u(-0.5, 0.6), at[2] + c.u(-0.3, 0.3)]
                end = [c.u(0, far[0]), far[1] + c.u(-0.4, 0.5), c.u(-0.4, 0.4)] if c.chance(0.5) else far
                r = c.u(0.012, 0.09)
                limb = tube(curve([[0.5 * at[0], at[1], 0], at, far, end][: 3 if end is far else 4], 26), r, tx, 8)
            else:
                limb = "union{%s %s translate %s}" % (part(c, s, tx)[0], turn, vec(at))
            out += limb
            if even or c.chance(0.3):
                out += "object{%s scale <-1,1,1>}" % ("union{%s}" % limb)
        y += h * c.u(0.8, 1)
    return "union{%s scale %.3f rotate <%.0f,%.0f,0>}" % (
        out,
        2 / max(y, 1.0),
        c.u(-90, 90) if c.chance(0.1) else 0,
        c.u(0, 360),
    )


def assembly(c):
    s = outdoors(c, 2, 0.8, el=(0, 0.6))
    s["subject"] = assembly_geo(c)
    s["maxext"] = c.u(0.75, 1.05)
    alikes(c, s, assembly_geo, 0.9, 0.4, (1, 3))
    occluder(c, s, 2, 0.8, 0.25)
    s.setdefault("kind", "solid")
    s["difficulty"] = "no known shape, several stuffs"
    return s


# ---- thin frames: ladders, racks, trestles, masts, railings
def frame_geo(c):
    t1, t2 = c.mat(["metal", "matte", "gloss", "wood", "stripes"], uv=False), c.mat(uv=False)
    r = c.u(0.012, 0.06)
    w, d, h = c.u(0.3, 1.4), c.u(0.15, 0.8), c.u(1.2, 2)
    k = c.pick("ladder", "rack", "mast", "trestle", "rail", "tangle")
    out = ""
    R = lambda a, b, f=1.0, t=None: rod(a, b, r * f, t or t1)
    if k == "ladder":
        w *= 0.5
        lean = c.u(0, 0.6)
        for x in (-w, w):
            out += R([x, 0, 0], [x * c.u(0.6, 1), h, lean])
        for t in np.linspace(0.08, 0.95, int(c.rng.integers(4, 12))):
            out += R([-w, h * t, lean * t], [w, h * t, lean * t], 0.8)
        if c.chance(0.5):
            out += R([-w, 0, 2 * lean], [-w, h, lean]) + R([w, 0, 2 * lean], [w, h, lean])
    elif k == "rack":
        xs, ys = np.linspace(-w, w, int(c.rng.integers(2, 5))), np.linspace(0.1, h, int(c.rng.integers(2, 6)))
        for x in xs:
            for z in (-d, d):
                out += R([x, 0, z], [x, h, z])
        for y in ys:
            for z in (-d, d):
                out += R([-w, y, z], [w, y, z])
            for x in xs:
                out += R([x, y, -d], [x, y, d])
            if c.chance(0.4):
                out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (-w, y, -d, w, y + 0.03, d, t2)
            if c.chance(0.4):
                out += "union{%s translate <%.3f,%.3f,0>}" % (
                    part(c, [c.u(0.08, 0.25) for _ in range(3)], c.mat(uv=False))[0],
                    c.u(-0.7, 0.7) * w,
                    y + 0.03,
                )
    elif k == "mast":
        out += R([0, 0, 0], [0, h, 0], 1.3)
        for _ in range(int(c.rng.integers(2, 7))):
            y, l, a = c.u(0.3, 1) * h, c.u(0.1, 0.7) * w, c.u(-0.4, 0.4)
            out += R([-l, y - a * l, 0], [l, y + a * l, 0], 0.8)
        for a in np.arange(3) * 2.1 + c.u(0, 2):
            out += R([0, h * 0.25, 0], [0.5 * math.cos(a), 0, 0.5 * math.sin(a)])
        if c.chance(0.6):
            out += "union{%s translate y*%.3f}" % (part(c, [c.u(0.1, 0.35) for _ in range(3)], t2)[0], h)
    elif k == "trestle":
        for x in (-w, w):
            for z in (-1, 1):
                out += R([x, 0, z * d], [x * 0.9, h * 0.8, z * d * c.u(0.05, 0.6)])
            out += R([x, h * 0.3, -d * 0.8], [x, h * 0.3, d * 0.8], 0.7)
        out += (
            "box{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f> translate y*%.3f %s}"
            % (-w * 1.2, -d, w * 1.2, c.u(0.03, 0.12), d, h * 0.8, t2)
            if c.chance(0.7)
            else R([-w * 1.2, h * 0.8, 0], [w * 1.2, h * 0.8, 0], 1.5)
        )
    elif k == "rail":
        n = int(c.rng.integers(5, 18))
        bend = c.u(-0.5, 0.5)
        z = lambda x: bend * (x / w) ** 2
        for x in np.linspace(-w, w, n):
            out += R([x, 0, z(x)], [x, h * 0.6, z(x)], 0.7)
        for y in (0.08, h * 0.6):
            out += tube(np.array([[x, y, z(x)] for x in np.linspace(-w, w, 14)]), r * 1.2, t1, 8)
        if c.chance(0.4):
            out += "".join(
                "sphere{<%.3f,%.3f,%.3f>,%.3f %s}" % (x, h * 0.6 + r * 2, z(x), r * 2.2, t2) for x in (-w, w)
            )
    else:
        p = c.rng.uniform(-1, 1, (int(c.rng.integers(4, 9)), 3)) * [w, h / 2, d] + [0, h / 2, 0]
        p[0, 1] = p[1, 1] = p[2, 1] = 0
        for i in range(len(p)):
            for j in np.argsort(((p - p[i]) ** 2).sum(1))[1 : int(c.rng.integers(3, 5))]:
                out += R(p[i], p[j])
        out += "".join("sphere{%s,%.3f %s}" % (vec(q), r * 2.5, t2) for q in p)
    return "union{%s rotate y*%.0f}" % (out, c.u(0, 360))


def thin(c):
    s = outdoors(c, 2, 0.9, el=(0, 0.5))
    s["subject"] = frame_geo(c)
    s["size"] = c.u(0.03, 0.2)
    alikes(c, s, frame_geo, 1, 0.25, (1, 2))
    s.setdefault("kind", "thin")
    s["difficulty"] = "bars a few pixels wide, the backdrop between them"
    return s


# ---- creatures of limbs
def creature_geo(c):
    coat, face, foot = (
        c.mat(["matte", "spots", "stripes", "mottle"], uv=False),
        c.mat(["matte"], uv=False),
        c.mat(uv=False),
    )
    limb = lambda p, r, t=coat: tube(
        curve(p, 20), np.interp(np.linspace(0, 1, 20), np.linspace(0, 1, len(r)), r), t, 10
    )
    two = c.chance(0.35)  # on two legs, with wings
    L, leg, fat = c.u(0.5, 1.1), c.u(0.15, 0.9), c.u(0.18, 0.38)
    y = leg + fat
    rise = c.u(0.2, 0.9) if two else c.u(-0.1, 0.25)
    tail, chest = np.array([-L / 2, y, 0]), np.array([L / 2, y + rise * L, 0])
    out = limb([tail, (tail + chest) / 2 + [0, c.u(-0.05, 0.08), 0], chest], [fat * 0.75, fat, fat * c.u(0.7, 1)])
    neck = c.u(0.1, 0.7)
    hd = chest + [neck * c.u(0.3, 1), neck * c.u(0.4, 1) + fat * 0.3, c.u(-0.15, 0.15)]
    hr = fat * c.u(0.5, 0.8)
    out += limb([chest, (chest + hd) / 2 + [0, 0.04, 0], hd], [fat * 0.7, hr * 0.7, hr * 0.75])
    out += "sphere{0,1 scale <%.3f,%.3f,%.3f> translate %s %s}" % (hr * 1.2, hr, hr, vec(hd), c.pick(coat, coat, face))
    snout = hd + [hr * c.u(1, 2), -hr * c.u(0.1, 0.5), 0]
    out += limb([hd, (hd + snout) / 2, snout], [hr * 0.7, hr * 0.5, hr * c.u(0.05, 0.4)], c.pick(coat, face, foot))
    for z in (-1, 1):
        out += "sphere{%s,%.3f %s}" % (vec(hd + [hr * 0.8, hr * 0.35, z * hr * 0.6]), hr * 0.13, face)
        if not two and c.chance(0.8):
            e = hd + [-hr * 0.2, hr * c.u(1, 2.2), z * hr * c.u(0.5, 1.4)]
            out += limb(
                [hd + [-hr * 0.2, hr * 0.5, z * hr * 0.5], (hd + e) / 2 + [0, hr * 0.4, z * hr * 0.3], e],
                [hr * 0.3, hr * 0.3, 0.01],
            )
        for x in [0.0] if two else [-L * 0.42, L * 0.42]:
            step = c.u(-0.25, 0.25) * leg
            top = [x, y, z * fat * 0.6]
            out += limb(
                [top, [x + c.u(-0.08, 0.08), leg * 0.5, z * fat * 0.7], [x + step, 0.03, z * fat * 0.7]],
                [fat * (0.3 if two else 0.5), fat * 0.22, fat * c.u(0.08, 0.2)],
                foot if two else c.pick(coat, coat, foot),
            )
        if two:
            w = c.u(0.5, 1.2)
            out += "sphere{0,1 scale <%.3f,%.3f,%.3f> rotate <%.0f,0,%.0f> translate %s %s}" % (
                L * 0.5 * w,
                fat * 0.6,
                fat * 0.22,
                z * c.u(0, 50),
                c.u(-10, 30),
                vec((tail + chest) / 2 + [0, fat * 0.2, z * fat * 0.9]),
                c.pick(coat, foot),
            )
    t = c.u(0.1, 0.9)
    out += limb(
        [tail, tail + [-t * 0.6, c.u(-0.3, 0.3) * t, 0], tail + [-t, c.u(-0.6, 0.8) * t, c.u(-0.3, 0.3)]],
        [fat * 0.35, fat * 0.2, fat * c.u(0.02, 0.3)],
    )
    if c.chance(0.45):  # hair along body and head
        q = sphere_pts(2600, c.rng)
        body = (tail + chest) / 2
        f, wid = (lambda l: c.u(0.05, 0.2) * l), c.u(0.004, 0.009)
        out += fur(body + q * [L * 0.5, fat, fat * 0.9], q, f(1), wid, c.rng, coat, c.u(0.2, 0.8), c.u(0.2, 0.7))
        out += fur(hd + q[:900] * hr, q[:900], f(0.7), wid, c.rng, coat, c.u(0.2, 0.8), c.u(0.2, 0.7))
    top = float(hd[1] + hr * 1.5)
    return "union{%s scale %.3f rotate y*%.0f}" % (out, 1.8 / max(top, L), c.u(0, 360))


def creature(c):
    s = outdoors(c, 1.8, 0.9, el=(-0.03, 0.5))
    s["subject"] = creature_geo(c)
    s["maxext"] = c.u(0.75, 1.05)
    alikes(c, s, creature_geo, 0.9, 0.4, (1, 3))
    occluder(c, s, 1.6, 0.8, 0.25)
    s.setdefault("kind", "solid")
    s["difficulty"] = "coat in spots or stripes, thin legs"
    return s


# ---- trees and bushes
def tree_geo(c):
    bark, leaf = c.mat(["mottle", "matte", "wood"], uv=False), [c.mat(["matte", "mottle"], uv=False) for _ in range(2)]
    if c.chance(0.7):
        leaf = [c.tex(c.rgb(np.array([c.u(0.02, 0.5), c.u(0.1, 0.5), c.u(0.01, 0.12)]))) for _ in range(2)]
    out = []
    ends = []
    spread, bare = c.u(0.35, 0.9), c.chance(0.2)

    def grow(p, d, l, r, n):
        q = p + d * l
        out.append(
            tube(curve([p, (p + q) / 2 + c.rng.normal(0, 0.04 * l, 3), q], 8), np.linspace(r, r * 0.7, 8), bark, 6)
        )
        if n == 0:
            ends.append(q)
            return
        for _ in range(int(c.rng.integers(2, 4))):
            e = d + c.rng.normal(0, spread, 3)
            grow(q, e / np.linalg.norm(e), l * c.u(0.6, 0.85), r * 0.62, n - 1)

    grow(np.zeros(3), np.array([0, 1.0, 0]), c.u(0.3, 0.7), c.u(0.03, 0.1), int(c.rng.integers(3, 5)))
    if not bare:
        clump = c.chance(0.5)
        for q in ends:
            if clump:
                out.append("sphere{%s,%.3f %s}" % (vec(q), c.u(0.08, 0.22), c.pick(*leaf)))
            for _ in range(6 if clump else 14):
                v = c.rng.normal(0, 1, 3)
                at = q + c.rng.normal(0, 0.09, 3)
                out.append(
                    "sphere{0,1 scale <%.3f,%.3f,%.3f> rotate <%.0f,%.0f,0> translate %s %s}"
                    % (c.u(0.02, 0.07), 0.008, c.u(0.02, 0.05), 50 * v[0], 90 * v[1], vec(at), c.pick(*leaf))
                )
    top = max(q[1] for q in ends) + 0.1
    return "union{%s scale %.3f rotate y*%.0f}" % ("".join(out), 2 / max(top, 0.6), c.u(0, 360))


def tree(c):
    s = outdoors(c, 2, 0.8, el=(-0.05, 0.3), table=0.2)
    s["subject"] = tree_geo(c)
    s["maxext"] = c.u(0.75, 1.05)
    alikes(c, s, tree_geo, 1, 0.25, (1, 2))
    s.setdefault("kind", "thin")
    s["difficulty"] = "leaves and twigs, gaps between them"
    return s


MORE = dict(assembly=assembly, thin=thin, creature=creature, tree=tree)
FAMILIES = dict(GIVEN, **MORE)
