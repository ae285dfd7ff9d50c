"""Families of things.  Each takes a Ctx and gives a dict for compose(), or (lin, alpha, others) for pictures made of real texture only."""
import math
import numpy as np, cv2
from core import *


def setup(c, h, r, ground=True, el=(0.05, 0.65), near=0.3, kinds=None, table=0.5, blurs=(0, 9)):
    """camera and backdrop before the subject is coloured, so that its colours may come near the backdrop's"""
    kind = (
        kinds
        and c.pick(*kinds)
        or c.pick(
            "photo", "photo", "photo", "photo", "photo", "photo", "surface", "plain", "mottled", "pattern", "bokeh"
        )
    )
    B = backdrop(c, kind, blurs)
    c.near = c.chance(near)
    y0 = int(c.H * 0.3)
    c.backmean = B[y0:-y0, int(c.W * 0.25) : int(c.W * 0.75)].reshape(-1, 3).mean(0)
    m = max(h, 2 * r)
    return dict(
        az=c.u(-0.7, 0.7),
        el=c.u(*el),
        dist=m * c.u(2.6, 4.5),
        at=[0, h / 2, 0],
        fov=55,
        ground=ground,
        table=ground and c.chance(table),
        radius=r,
        B=B,
        backdrop_kind=kind,
    )


def side(s, dx, dz):
    a = s["az"]
    return np.array([math.cos(a) * dx - math.sin(a) * dz, 0, math.sin(a) * dx + math.cos(a) * dz])


def alikes(c, s, build, r, p=0.4, n=(1, 3), scale=(0.7, 1.15)):
    """look-alikes beside, behind or partly before the subject; only the subject is wanted"""
    s.setdefault("others", [])
    if not c.chance(p):
        return
    c.role = "O"
    k = int(c.rng.integers(n[0], n[1] + 1))
    sg = c.pick(-1, 1)
    for i in range(k):
        f = c.u(*scale)
        d = sg * (-1) ** i * (r * (1 + f) * c.u(0.75, 1.25) + (i // 2) * 2 * r)
        z = c.u(-1.2, 2.2) * r
        s["others"].append(
            (
                "union{%s scale %.3f rotate y*%.0f translate %s}" % (build(c), f, c.u(-40, 40), vec(side(s, d, z))),
                "alike",
            )
        )
    c.role = "S"
    s["kind"] = "multi"


def occluder(c, s, h, r, p=0.25):
    s.setdefault("others", [])
    if s["table"] and c.chance(0.55):  # clutter behind and beside
        c.role = "O"
        for _ in range(int(c.rng.integers(1, 6))):
            d = side(s, c.u(-3.5, 3.5) * r, c.u(1.4, 4) * r)
            q = c.u(0.2, 0.6) * r
            g = c.pick(
                *[
                    "sphere{0,1 translate y %s}",
                    "box{<-1,0,-1>,<1,2,1> %s}",
                    "cylinder{0,y*2.5,.7 %s}",
                    "cone{0,1,y*2.2,.1 %s}",
                    "superellipsoid{<.3,.3> translate y %s}",
                ]
            )
            s["others"].append(
                (
                    "union{%s scale <%.3f,%.3f,%.3f> rotate y*%.0f translate %s}"
                    % (g % c.mat(uv=False), q, q * c.u(0.5, 1.8), q, c.u(0, 90), vec(d)),
                    "clutter",
                )
            )
        c.role = "S"
    if not c.chance(p):
        return
    c.role = "O"
    k = c.pick("rod", "ball", "box", "blade")
    d = side(s, c.u(-0.9, 0.9) * r, -r * c.u(1.3, 1.9))
    if k == "rod":
        t = rod([d[0], 0, d[2]], [d[0] + c.u(-0.3, 0.3) * r, h * c.u(0.6, 1.3), d[2]], c.u(0.02, 0.07) * r, c.mat())
    elif k == "ball":
        q = c.u(0.15, 0.35) * r
        t = "sphere{%s,%.3f %s}" % (vec([d[0], q, d[2]]), q, c.mat(uv=False))
    elif k == "box":
        q = c.u(0.12, 0.3) * r
        t = "box{<-1,0,-1>,<1,%.2f,1> %s scale %.3f rotate y*%.0f translate %s}" % (
            c.u(1, 2.5),
            c.mat(uv=False),
            q,
            c.u(0, 90),
            vec(d),
        )
    else:
        t = "".join(
            sheet(
                np.stack(
                    [
                        np.stack(
                            [
                                d[0] + q * r * 0.12 + np.linspace(0, b, 12) ** 2 * 0.3,
                                np.linspace(0, hh, 12),
                                d[2] + 0 * np.linspace(0, 1, 12),
                            ],
                            -1,
                        )
                        + np.array([w * 0.03 * r, 0, 0]) * (1 - np.linspace(0, 1, 12)[:, None])
                        for w in (-1, 1)
                    ],
                    1,
                ),
                tx,
            )
            for q, b, hh, tx in [
                (i, c.u(-1, 1), h * c.u(0.3, 0.9), c.mat(["matte"], col=[0.05, 0.2, 0.02]))
                for i in range(int(c.rng.integers(1, 6)))
            ]
        )
    s["others"].append((t, "occluder"))
    c.role = "S"


# ---- furry ball animals
def furry(c):
    rng = c.rng
    R = []
    a, b = c.col(), c.col()
    big = c.u(0.8, 1.25)
    R.append((np.array([0, 0.9, 0]), np.array([0.75 * big, c.u(0.6, 0.9), c.u(0.7, 1.1)])))
    hy = 0.9 + c.u(0.55, 0.9)
    hz = -c.u(0.1, 0.8)
    hr = c.u(0.38, 0.6)
    R.append((np.array([c.u(-0.3, 0.3), hy, hz]), np.ones(3) * hr))
    for sx in (-1, 1):
        for z in (-0.5, 0.5):
            if c.chance(0.95):
                R.append((np.array([sx * 0.45, 0.25, z * 0.9]), np.array([0.17, 0.32, 0.17])))
    ear = c.u(0.1, 0.45)
    H = R[1][0]
    for sx in (-1, 1):
        R.append(
            (H + np.array([sx * hr * 0.6, hr * 0.75 + ear * 0.4, 0]), np.array([0.1 + 0.05 * c.u(0, 1), ear, 0.08]))
        )
    if c.chance(0.7):
        tl = c.u(0.2, 0.9)
        R.append((np.array([0, 1.0, 1.1 + tl * 0.5]), np.array([0.13, 0.13, tl * 0.6 + 0.15])))
    fin = "specular .1 roughness .08"
    k = c.pick("plain", "spots", "stripes", "mottle")
    pig = {
        "plain": c.rgb(a),
        "spots": "bozo color_map{[.45 %s][.55 %s]} scale %.2f" % (c.rgb(a), c.rgb(b), c.u(0.15, 0.5)),
        "stripes": "gradient %s turbulence .2 color_map{[.5 %s][.6 %s]} scale %.2f"
        % (c.pick("z", "y"), c.rgb(a), c.rgb(b), c.u(0.2, 0.6)),
        "mottle": "granite color_map{[0 %s][1 %s]} scale 1.2" % (c.rgb(a), c.rgb(a * 0.5)),
    }[k]
    tx = c.tex(pig, fin)
    L = math.exp(c.u(math.log(0.05), math.log(0.3)))
    out = ""
    P, N = [], []
    for ce, ra in R:
        n = int(5500 * (ra[0] * ra[1] + ra[1] * ra[2] + ra[0] * ra[2])) + 150
        q = sphere_pts(n, rng)
        p = ce + q * ra
        nn = q / ra
        nn /= np.linalg.norm(nn, axis=1, keepdims=True)
        keep = np.ones(n, bool)
        for c2, r2 in R:
            if c2 is not ce:
                keep &= (((p - c2) / r2) ** 2).sum(1) > 0.97
        P.append(p[keep])
        N.append(nn[keep])
        out += "sphere{0,1 scale %s translate %s %s}\n" % (vec(ra * 0.985), vec(ce), tx)
    P, N = np.vstack(P), np.vstack(N)
    out += fur(P, N, L, (0.004 + 0.012 * L) * c.u(0.8, 1.3), rng, tx, c.u(0, 0.7), c.u(0.15, 0.7))
    e = c.tex(c.rgb([0.01, 0.01, 0.01]), "specular .9 roughness .005")
    for sx in (-1, 1):
        out += "sphere{%s,.075 %s}" % (vec(H + np.array([sx * 0.4, 0.15, -0.88]) * hr * 1.02), e)
    return out + "sphere{%s,.09 %s}" % (vec(H + np.array([0, -0.12, -1.02]) * hr), e)


def furball(c):
    s = setup(c, 2.2, 1.1)
    s["az"] = c.u(-1.2, 1.2)
    s["subject"] = furry(c)
    alikes(c, s, furry, 1.1, 0.25, (1, 1))
    occluder(c, s, 2, 1.1, 0.25)
    s.setdefault("kind", "hair")
    s["difficulty"] = "fur of random length and pattern"
    return s


# ---- vases and jugs
def jug(c):
    n = c.rng.integers(4, 7)
    y = np.linspace(0, c.u(1.2, 2.6), n)
    r = [c.u(0.3, 0.6)] + [c.u(0.2, 0.85) for _ in range(n - 2)] + [c.u(0.15, 0.5)]
    q = curve(np.stack([r, y, 0 * y], 1), 48)[:, :2]
    q[:, 0] = np.maximum(q[:, 0], 0.08)
    prof = np.vstack([[[0.001, 0]], q, q[::-1] * [1, 1] - [0.05, 0]])
    prof[:, 0] = np.maximum(prof[:, 0], 0.001)
    tx = c.mat()
    k = int(c.rng.integers(5, 20))
    am = c.pick(0, 0, 0.03, 0.08)
    fn = lambda t, yy: 1 + am * np.sin(k * t + yy * c.pick(0, 2))
    fnv = lambda t, yy: 1 + am * np.sin(k * t)
    out = revolve(prof, tx, 96, fnv if am else None)
    if c.chance(0.65):
        for sx in [1] if c.chance(0.6) else [1, -1]:
            ya, yb = c.u(0.12, 0.4), c.u(0.6, 0.95)
            at = lambda f: q[int(f * 47)]
            A, Bq = at(ya), at(yb)
            o = c.u(0.35, 0.8)
            m = max(A[0], Bq[0])
            p = curve(
                [
                    [sx * (A[0] - 0.06), A[1], 0],
                    [sx * (A[0] + o * 0.7), A[1] + 0.05, 0],
                    [sx * (m + o), (A[1] + Bq[1]) / 2, 0],
                    [sx * (Bq[0] + o * 0.6), Bq[1] + 0.08, 0],
                    [sx * (Bq[0] - 0.06), Bq[1], 0],
                ],
                36,
            )
            out += tube(p, c.u(0.05, 0.11), tx, 12)
    if c.chance(0.3):
        p = curve(
            [
                [-q[20, 0] + 0.05, q[20, 1], 0],
                [-q[20, 0] - 0.3, q[20, 1] + 0.2, 0],
                [-q[20, 0] - 0.7, q[20, 1] + c.u(0.5, 0.9), 0],
            ],
            24,
        )
        out += tube(p, np.linspace(0.14, 0.06, 24), tx, 12)
    return "union{%s rotate y*%.0f}" % (out, c.u(-50, 50))


def vase(c):
    s = setup(c, 2, 0.8)
    s["subject"] = jug(c)
    alikes(c, s, jug, 0.8, 0.45)
    occluder(c, s, 2, 0.8, 0.2)
    s.setdefault("kind", "solid")
    s["difficulty"] = "glaze or pattern, handle holes"
    return s


# ---- chairs and stools
def chair_geo(c):
    w, d, h = c.u(0.8, 1.2), c.u(0.8, 1.1), c.u(0.8, 1.6)
    r = c.u(0.03, 0.07)
    tx, t2 = c.mat(), c.mat()
    out = ""
    sp = c.u(0, 0.18)
    legs = (
        [(x * w / 2, z * d / 2) for x in (-1, 1) for z in (-1, 1)]
        if c.chance(0.75)
        else [(math.cos(t) * w / 2, math.sin(t) * w / 2) for t in (0.3, 2.4, 4.5)]
    )
    for x, z in legs:
        out += rod([x * (1 + sp), r, z * (1 + sp)], [x * 0.92, h, z * 0.92], r, tx)
    if c.chance(0.7):
        for i in range(len(legs)):
            a, b = legs[i], legs[(i + 1) % len(legs)] if len(legs) == 3 else legs[[1, 3, 0, 2][i]]
            y = h * c.u(0.25, 0.5)
            out += rod(
                [a[0] * (1 + sp * 0.6), y, a[1] * (1 + sp * 0.6)],
                [b[0] * (1 + sp * 0.6), y, b[1] * (1 + sp * 0.6)],
                r * 0.7,
                tx,
            )
    out += (
        ("cylinder{<0,%.3f,0>,<0,%.3f,0>,%.3f %s}" % (h, h + c.u(0.06, 0.2), w * 0.6, t2))
        if c.chance(0.4)
        else "superellipsoid{<.25,.3> scale <%.3f,%.3f,%.3f> translate y*%.3f %s}"
        % (w * 0.56, d * 0.06 + 0.02, d * 0.56, h + 0.05, t2)
    )
    if len(legs) == 4 and c.chance(0.65):
        bh = c.u(0.8, 1.5)
        bk = c.u(0, 0.3)
        for x in (-1, 1):
            out += rod([x * w / 2 * 0.92, h, d / 2 * 0.92], [x * w / 2, h + bh, d / 2 + bk], r, tx)
        n = int(c.rng.integers(2, 7))
        if c.chance(0.5):
            for i in range(n):
                t = (i + 1) / n
                out += rod(
                    [-w / 2 * 0.95, h + bh * t, d / 2 + bk * t], [w / 2 * 0.95, h + bh * t, d / 2 + bk * t], r * 0.8, tx
                )
        else:
            out += rod([-w / 2, h + bh, d / 2 + bk], [w / 2, h + bh, d / 2 + bk], r * 1.2, tx)
            for i in range(n):
                x = -w / 2 + w * (i + 1) / (n + 1)
                out += rod([x, h, d / 2], [x, h + bh, d / 2 + bk], r * 0.6, tx)
    return "union{%s rotate y*%.0f}" % (out, c.u(0, 360))


def chair(c):
    s = setup(c, 2, 0.8, el=(0.1, 0.6))
    s["subject"] = chair_geo(c)
    alikes(c, s, chair_geo, 0.85, 0.3, (1, 2))
    occluder(c, s, 2, 0.8, 0.15)
    s.setdefault("kind", "thin")
    s["difficulty"] = "thin legs and bars, backdrop seen between them"
    return s


# ---- potted plants
def plant_geo(c):
    rng = c.rng
    ph, pr = c.u(0.4, 0.9), c.u(0.3, 0.55)
    tx = c.mat()
    out = revolve(
        [
            [0.001, 0],
            [pr * 0.7, 0],
            [pr, ph],
            [pr * 1.08, ph],
            [pr * 1.08, ph * 1.08],
            [pr * 0.95, ph * 1.08],
            [pr * 0.9, ph * 0.9],
            [0.001, ph * 0.88],
        ],
        tx,
        48,
    )
    a = np.array([c.u(0.02, 0.12), c.u(0.1, 0.35), c.u(0.01, 0.08)]) if c.chance(0.75) else c.col()
    lt = [
        c.tex(
            "gradient x color_map{[0 %s][.5 %s][1 %s]} scale .3" % (c.rgb(a * f), c.rgb(a * f * 1.3), c.rgb(a * f)),
            "specular .25 roughness .04",
        )
        for f in (0.7, 1, 1.3)
    ]
    style = c.pick("rosette", "stems", "grass", "bush")
    n = int(rng.integers(14, 60))
    if style in ("rosette", "grass"):
        for i in range(n):
            t = rng.random() * 6.28
            e = c.u(0.3, 1.4)
            L = c.u(0.7, 1.8)
            out += leaf(
                L,
                c.u(0.02, 0.05) if style == "grass" else c.u(0.07, 0.2),
                c.u(0.4, 2.2),
                c.u(-0.3, 0.8),
                lt[i % 3],
                frame(
                    [math.cos(t) * math.cos(e), math.sin(e), math.sin(t) * math.cos(e)],
                    [math.cos(t) * pr * 0.3, ph * 0.95, math.sin(t) * pr * 0.3],
                ),
                tip=c.u(0.7, 1.5),
            )
    else:
        st = c.tex(c.rgb(a * [1.2, 0.7, 0.7]))
        m = int(rng.integers(2, 8))
        for j in range(m):
            t = rng.random() * 6.28
            o = c.u(0.1, 0.9)
            hh = c.u(0.8, 2.0)
            p = curve(
                [
                    [0, ph * 0.9, 0],
                    [math.cos(t) * o * 0.3, ph + hh * 0.5, math.sin(t) * o * 0.3],
                    [math.cos(t) * o, ph + hh, math.sin(t) * o],
                ],
                20,
            )
            out += tube(p, np.linspace(0.035, 0.012, 20), st, 6)
            for i in range(max(3, 2 * n // m // 2)):
                q = p[int(rng.integers(6, 20))]
                u = rng.random() * 6.28
                e = c.u(-0.3, 0.9)
                out += leaf(
                    c.u(0.25, 0.65),
                    c.u(0.06, 0.2),
                    c.u(0.2, 1.3),
                    c.u(0, 0.6),
                    lt[i % 3],
                    frame([math.cos(u) * math.cos(e), math.sin(e), math.sin(u) * math.cos(e)], q),
                    tip=c.u(0.6, 1.4),
                )
            if c.chance(0.3):
                fc = c.mat(["matte"], uv=False)
                out += "".join(
                    leaf(c.u(0.2, 0.3), 0.07, 0.6, 0.5, fc, frame([math.cos(v), 0.5, math.sin(v)], p[-1]))
                    for v in np.arange(0, 6.28, 0.9)
                ) + "sphere{%s,.06 %s}" % (vec(p[-1]), c.mat(["matte"]))
    return out


def plant(c):
    s = setup(c, 2.4, 0.9, el=(0.05, 0.5))
    s["subject"] = plant_geo(c)
    alikes(c, s, plant_geo, 0.9, 0.3, (1, 2))
    occluder(c, s, 2, 0.9, 0.15)
    s.setdefault("kind", "leaves")
    s["difficulty"] = "leaves with gaps, often before green"
    return s


# ---- wheels, frames and other wire things
def wire_geo(c):
    rng = c.rng
    t1, t2, t3 = (
        c.mat(["metal", "gloss", "matte"], uv=False),
        c.mat(["matte", "gloss", "metal"], uv=False),
        c.mat(["metal", "matte"], uv=False),
    )
    out = ""

    def wheel(x, R, ns):
        o = (
            "torus{%.3f,%.3f rotate x*90 translate <%.3f,%.3f,0> %s}" % (R, c_tyre, x, R, t2)
            + "torus{%.3f,%.3f rotate x*90 translate <%.3f,%.3f,0> %s}" % (R - c_tyre * 1.4, 0.025, x, R, t3)
            + "cylinder{<%.3f,%.3f,-.12>,<%.3f,%.3f,.12>,.06 %s}" % (x, R, x, R, t3)
        )
        for i in range(ns):
            a = 2 * math.pi * i / ns
            q = a + (-1) ** i * 0.5
            o += "cylinder{%s,%s,%.4f %s}" % (
                vec([x + 0.06 * math.cos(q), R + 0.06 * math.sin(q), 0.08 * (-1) ** i]),
                vec([x + (R - 0.06) * math.cos(a), R + (R - 0.06) * math.sin(a), 0]),
                sw,
                t3,
            )
        return o

    c_tyre = c.u(0.035, 0.1)
    sw = c.u(0.008, 0.018)
    k = c.pick("two", "two", "cart", "one", "cage", "basket")
    if k in ("two", "one", "cart"):
        R = c.u(0.55, 0.8)
        D = c.u(1.7, 2.3)
        ns = int(rng.integers(10, 28))
        r = c.u(0.03, 0.055)
        out += wheel(0, R, ns)
        if k == "two":
            R2 = R * c.pick(1, 1, 0.7)
            out += wheel(D, R2, ns)
            bb = [D * 0.45, R * 0.9, 0]
            se = [D * 0.3, R + 0.95, 0]
            he = [D * 0.8, R + 1.05, 0]
            for a, b in ((bb, se), (bb, he), (se, he), ([0, R, 0], bb), ([0, R, 0], se), (he, [D, R2, 0])):
                out += rod(a, b, r, t1)
            out += (
                rod(se, [se[0] - 0.04, se[1] + 0.2, 0], r * 0.8, t3)
                + "superellipsoid{<.8,.6> scale <.24,.05,.11> translate %s %s}" % (vec([se[0], se[1] + 0.23, 0]), t2)
                + rod(he, [he[0] - 0.05, he[1] + 0.22, 0], r * 0.8, t3)
                + tube(
                    curve(
                        [
                            [he[0] + 0.15, he[1] + 0.22, -0.35],
                            [he[0] + 0.02, he[1] + 0.26, -0.1],
                            [he[0] - 0.05, he[1] + 0.24, 0],
                            [he[0] + 0.02, he[1] + 0.26, 0.1],
                            [he[0] + 0.15, he[1] + 0.22, 0.35],
                        ],
                        24,
                    ),
                    r * 0.7,
                    t3,
                    8,
                )
            )
        elif k == "one":
            out += (
                rod([0, R, 0.12], [0, 2 * R + 0.6, 0.12], r, t1)
                + rod([0, R, -0.12], [0, 2 * R + 0.6, -0.12], r, t1)
                + "superellipsoid{<.8,.6> scale <.26,.06,.16> translate <0,%.3f,0> %s}" % (2 * R + 0.62, t2)
            )
        else:
            out += "".join(
                rod([0, R, z * 0.15], [1.9, R * 1.5, z * 0.35], r, t1)
                + rod([1.2, R * 1.2, z * 0.3], [1.3, 0, z * 0.3], r, t1)
                for z in (-1, 1)
            ) + sheet(
                np.array(
                    [
                        [[0.3, R * 1.5, -0.4], [0.3, R * 1.5, 0.4]],
                        [[0.35, R * 1.1, -0.25], [0.35, R * 1.1, 0.25]],
                        [[1.1, R * 1.15, -0.25], [1.1, R * 1.15, 0.25]],
                        [[1.3, R * 1.7, -0.42], [1.3, R * 1.7, 0.42]],
                    ]
                ),
                c.mat(["matte", "gloss"]),
                False,
            )
        return (
            "union{%s translate x*%.2f rotate y*%.0f}"
            % (out, -D / 2 if k == "two" else -0.6 if k == "cart" else 0, c.u(-35, 35) + 180 * c.pick(0, 1)),
            2.0,
            1.5,
        )
    R, h = c.u(0.5, 0.8), c.u(1.0, 1.9)
    n = int(rng.integers(12, 26))
    r = c.u(0.012, 0.03)
    for i in range(n):
        a = 2 * math.pi * i / n
        f = 1.0 if k == "cage" else 0.75
        out += tube(
            curve(
                [[R * f * math.cos(a), 0, R * f * math.sin(a)], [R * math.cos(a), h * 0.6, R * math.sin(a)]]
                + (
                    [[R * 0.75 * math.cos(a), h * 0.9, R * 0.75 * math.sin(a)], [0, h * 1.1, 0]]
                    if k == "cage"
                    else [[R * 1.1 * math.cos(a), h, R * 1.1 * math.sin(a)]]
                ),
                18,
            ),
            r,
            t1,
            6,
        )
    for y in np.linspace(0, h * (0.6 if k == "cage" else 1), 5 if k == "basket" else 3):
        out += "torus{%.3f,%.3f translate y*%.3f %s}" % (
            R * ((1 if k == "cage" else 0.75) + (0 if k == "cage" else 0.35) * y / h),
            r * 1.3,
            y + r,
            t1,
        )
    out += "cylinder{<0,0,0>,<0,.06,0>,%.3f %s}" % (R * 1.02 if k == "cage" else R * 0.75, t2)
    if k == "cage":
        out += "torus{.12,.02 rotate x*90 translate y*%.3f %s}" % (h * 1.1 + 0.12, t3) + rod(
            [-R, h * 0.3, 0], [R, h * 0.3, 0], r * 1.5, t3
        )
    return out, h * 1.1, R


def wire(c):
    s = setup(c, 2, 1.4, el=(0.03, 0.35))
    s["subject"], h, r = wire_geo(c)
    s["at"] = [0, h / 2, 0]
    s["dist"] = max(h, 2 * r) * c.u(2.4, 4)
    s["radius"] = r
    s["size"] = c.u(0.05, 0.16)
    s["kind"] = "wire"
    s["difficulty"] = "spokes and tubes a few pixels wide; truth is the metal, not what is seen through it"
    return s


# ---- toys of blocks
def toy(c):
    out = ""
    y = 0.0
    tex = [c.mat(["matte", "gloss", "gloss", "wood", "stripes", "spots", "photo"], uv=False) for _ in range(5)]
    w = c.u(0.7, 1.2)
    for i in range(int(c.rng.integers(3, 7))):
        t = tex[i % 5] if c.chance(0.8) else c.mat(uv=False)
        k = c.pick("box", "box", "cyl", "ball", "cone", "arch", "wheels")
        h = c.u(0.25, 0.6)
        ww = w * c.u(0.55, 1.1)
        ox = c.u(-0.12, 0.12)
        if k in ("box", "wheels"):
            out += "superellipsoid{<.12,.12> scale <%.3f,%.3f,%.3f> rotate y*%.0f translate <%.3f,%.3f,0> %s}" % (
                ww / 2,
                h / 2,
                ww * c.u(0.3, 0.5),
                c.u(-25, 25),
                ox,
                y + h / 2,
                t,
            )
            if k == "wheels" and i == 0:
                out += "".join(
                    "cylinder{<%.2f,.17,%.2f>,<%.2f,.17,%.2f>,.17 %s}"
                    % (x * ww * 0.35, z * ww * 0.45, x * ww * 0.35, z * ww * 0.58, tex[4])
                    for x in (-1, 1)
                    for z in (-1, 1)
                )
        elif k == "cyl":
            out += "cylinder{<%.3f,%.3f,0>,<%.3f,%.3f,0>,%.3f %s}" % (ox, y, ox, y + h, ww / 2, t)
        elif k == "ball":
            h = ww * 0.8
            out += "sphere{<%.3f,%.3f,0>,%.3f %s}" % (ox, y + h / 2, h / 2, t)
        elif k == "cone":
            out += "cone{<%.3f,%.3f,0>,%.3f,<%.3f,%.3f,0>,%.3f %s}" % (ox, y, ww / 2, ox, y + h, ww * c.u(0, 0.35), t)
        else:
            h = max(h, 0.45)
            out += (
                "difference{box{<%.3f,%.3f,-.25>,<%.3f,%.3f,.25>} cylinder{<%.3f,%.3f,-.3>,<%.3f,%.3f,.3>,%.3f} %s rotate y*%.0f}"
                % (ox - ww / 2, y, ox + ww / 2, y + h, ox, y, ox, y, min(0.34 * ww, h * 0.75), t, c.u(-30, 30))
            )
        y += h
    return out


def blocks(c):
    s = setup(c, 2, 0.7)
    s["subject"] = toy(c)
    alikes(c, s, toy, 0.75, 0.5)
    occluder(c, s, 1.8, 0.7, 0.2)
    s.setdefault("kind", "solid")
    s["difficulty"] = "parts of unlike colours that belong together"
    return s


# ---- paper lanterns
def lantern_geo(c):
    h, r = c.u(0.8, 2.0), c.u(0.45, 0.95)
    n = int(c.rng.integers(6, 20))
    y = np.linspace(0, h, 80)
    sh = c.pick(0.25, 0.5, 0.8)
    base = r * (0.35 + 0.65 * np.sin(np.pi * np.clip(y / h, 0.001, 0.999)) ** sh)
    rib = 1 - 0.05 * np.abs(np.sin(np.pi * n * y / h))
    a = c.col(0.25, 0.9)
    glow = c.pick(0, 0, 0.3, 0.7)
    pig = c.pick(
        c.rgb(a),
        "gradient y color_map{[0 %s][.5 %s][1 %s]} scale %.2f" % (c.rgb(a), c.rgb(np.minimum(a * 1.5, 1)), c.rgb(a), h),
        c.image(),
    )
    tr = c.pick(0, 0, 0, 0.12)
    pig2 = c.rgb(a) if "image_map" not in pig else pig
    tx = (
        "#if(MATTE) texture{pigment{rgbft <%s,0,%.3f>}finish{emission 1 ambient 0 diffuse 0}} #else texture{pigment{%s} finish{ambient 1 diffuse .7 emission %.2f}} #end "
        % ("1,1,1" if c.role == "S" else "0,0,0", tr, pig2 if not tr else "rgbt <%.3f,%.3f,%.3f,%.3f>" % (*a, tr), glow)
    )
    out = revolve(np.stack([base * rib, y], 1), tx, 60)
    d = c.mat(["matte", "wood", "metal"], uv=False)
    out += "cylinder{<0,%.3f,0>,<0,%.3f,0>,%.3f %s}cylinder{<0,-.05,0>,<0,.03,0>,%.3f %s}" % (
        h - 0.02,
        h + 0.08,
        base[-1] * 1.06,
        d,
        base[0] * 1.06,
        d,
    ) + rod([0, h, 0], [0, h + c.u(0.2, 1.2), 0], 0.012, d)
    if c.chance(0.6):
        for i in range(int(c.rng.integers(8, 40))):
            q = c.rng.normal(0, 0.06, 2)
            out += rod([q[0] * 0.4, -0.05, q[1] * 0.4], [q[0], -c.u(0.35, 0.6), q[1]], 0.008, d)
    return out


def lantern(c):
    s = setup(c, 2, 0.9, ground=False, el=(-0.25, 0.2))
    s["subject"] = lantern_geo(c)
    alikes(c, s, lambda c: "union{%s translate y*%.2f}" % (lantern_geo(c), c.u(-0.8, 0.8)), 1.0, 0.45, (1, 3))
    s.setdefault("kind", "solid")
    s["difficulty"] = "hangs; ribbed paper, cord, tassel"
    return s


# ---- cloths and veils
def cloth(c):
    s = setup(c, 2.2, 1.0, ground=False, el=(-0.1, 0.25))
    rng = c.rng
    n, m = 70, 90
    U, V = np.meshgrid(np.linspace(-1, 1, m), np.linspace(0, 1, n))
    z = 0 * U
    x = U.copy()
    for _ in range(5):
        f = c.u(1, 7)
        z = z + 0.25 / f**0.6 * np.sin(f * U * np.pi + c.u(0, 6) + V * c.u(-2, 2)) * (0.3 + 0.7 * V)
    w = c.u(0.6, 1.1)
    g = c.pick(1, 1, 0.6, 1.4)
    x = w * U * (1 + (g - 1) * (1 - V))
    sag = c.u(0, 0.35)
    y = 2 - 2 * V - sag * (1 - U**2) * (1 - V) + c.u(0, 0.12) * np.sin(c.u(2, 9) * U + 1) * V
    a, b = c.col(0.2, 0.85), c.col()
    veil = c.chance(0.45)
    t = c.u(0.2, 0.45) if veil else 0.0
    cs = c.pick("plain", "stripes", "checks", "image")
    ca, cb = c.rgb(a), c.rgb(b)
    if veil:
        pig = (
            "rgbt <%.3f,%.3f,%.3f,%.3f>" % (*np.minimum(a + 0.2, 1), t)
            if cs != "stripes"
            else "gradient x color_map{[.5 rgbt <%.3f,%.3f,%.3f,%.3f>][.5 rgbt <%.3f,%.3f,%.3f,0>]} scale %.2f"
            % (*np.minimum(a + 0.2, 1), t, *b, c.u(0.1, 0.5))
        )
    else:
        pig = {
            "plain": ca,
            "stripes": "gradient %s color_map{[.5 %s][.5 %s]} scale %.2f" % (c.pick("x", "y"), ca, cb, c.u(0.1, 0.5)),
            "checks": "checker %s,%s scale %.2f" % (ca, cb, c.u(0.1, 0.3)),
            "image": None,
        }[cs] or c.image()
    tx = "texture{pigment{%s} finish{ambient 1 diffuse .85}} " % pig if veil else c.tex(pig)
    s["subject"] = sheet(np.stack([x, y, z], -1), tx)
    d = c.mat(["metal", "wood", "matte"], uv=False)
    k = c.pick("line", "pegs", "bar")
    s["subject"] += (
        "".join(
            "sphere{%s,.05 %s}"
            % (vec([w * q * g, 2 - sag * (1 - q * q), z[0, min(m - 1, int((q + 1) / 2 * (m - 1)))]]), d)
            for q in np.linspace(-1, 1, int(rng.integers(3, 8)))
        )
        if not veil
        else rod([-w * g * 1.05, 2.02, 0], [w * g * 1.05, 2.02, 0], 0.07, d.replace("MATTE", "0"))
    )
    if veil:
        s["subject"] += sheet(
            np.stack([x[-8:], y[-8:] - 0.02, z[-8:] - 0.015], -1),
            "texture{pigment{%s} finish{ambient 1 diffuse .85}}" % c.rgb(np.minimum(a + 0.2, 1)),
        )
    s["kind"] = "veil" if veil else "solid"
    s["difficulty"] = "half transparent gauze" if veil else "folded cloth with shading inside"
    return s


# ---- bowls of fruit
def fruit_geo(c):
    rng = c.rng
    R = c.u(0.6, 1.0)
    h = c.u(0.25, 0.6)
    q = curve([[0.25, 0.02, 0], [R * 0.75, h * 0.35, 0], [R, h, 0]], 24)[:, :2]
    out = revolve(np.vstack([[[0.001, 0], [0.3, 0]], q, (q - [0.05, -0.03])[::-1], [[0.001, 0.08]]]), c.mat(), 72)
    k = int(rng.integers(4, 14))
    for i in range(k):
        f = c.pick("apple", "orange", "lemon", "grapes", "plum", "banana")
        t = rng.random() * 6.28
        d = R * 0.6 * math.sqrt(rng.random())
        y = h * 0.75 + 0.3 * (1 - d / R) * c.u(0.3, 1.6)
        p = [d * math.cos(t), y, d * math.sin(t)]
        r = c.u(0.2, 0.32)
        bc = {
            "apple": [0.5, 0.05, 0.03],
            "orange": [0.8, 0.3, 0.02],
            "lemon": [0.8, 0.65, 0.08],
            "grapes": [0.15, 0.03, 0.15],
            "plum": [0.1, 0.02, 0.1],
            "banana": [0.8, 0.6, 0.1],
        }[f]
        bc = np.clip(np.array(bc) * c.rng.uniform(0.6, 1.4, 3) + c.rng.uniform(0, 0.1, 3), 0, 1)
        bc = bc[[1, 0, 2]] if c.chance(0.25) else bc
        tx = c.tex(
            "bozo turbulence .5 color_map{[0 %s][1 %s]} scale .3" % (c.rgb(bc), c.rgb(bc * 0.6 + [0.1, 0.05, 0])),
            "specular .5 roughness .02",
            c.pick("", "bumps .2 scale .02"),
        )
        if f == "grapes":
            out += "".join(
                "sphere{%s,%.3f %s}" % (vec(np.array(p) + rng.normal(0, 0.13, 3)), c.u(0.06, 0.09), tx)
                for _ in range(18)
            )
        elif f == "banana":
            a = c.u(0, 6.28)
            out += tube(
                curve(
                    [
                        [p[0] + 0.5 * math.cos(a) * v, p[1] + 0.25 - 0.3 * (1 - v * v), p[2] + 0.5 * math.sin(a) * v]
                        for v in (-1, -0.5, 0, 0.5, 1)
                    ],
                    24,
                ),
                np.concatenate([np.linspace(0.03, 0.11, 6), np.full(12, 0.11), np.linspace(0.11, 0.03, 6)]),
                tx,
                10,
            )
        else:
            out += "sphere{0,%.3f scale <1,%.2f,1> rotate <%.0f,0,%.0f> translate %s %s}" % (
                r,
                c.u(0.85, 1.3) if f != "lemon" else 1.4,
                c.u(-60, 60),
                c.u(-60, 60),
                vec(p),
                tx,
            )
        if f == "apple":
            out += tube(
                curve([p, [p[0], p[1] + r, p[2]], [p[0] + 0.05, p[1] + r * 1.5, p[2]]], 8),
                0.015,
                c.tex("rgb <.08,.04,.02>"),
                6,
            )
    return out


def fruit(c):
    s = setup(c, 1.2, 0.9, el=(0.15, 0.9))
    s["subject"] = fruit_geo(c)
    if c.chance(0.5):
        c.role = "O"
        s["others"] = [
            (
                "sphere{%s,.25 %s}"
                % (
                    vec(side(s, c.u(-1.6, 1.6), c.pick(-1, 1) * c.u(1.1, 1.5)) + [0, 0.25, 0]),
                    c.mat(["mottle", "gloss"], col=c.rng.uniform(0.05, 0.6, 3), uv=False),
                ),
                "alike",
            )
            for _ in range(int(c.rng.integers(1, 4)))
        ]
        c.role = "S"
        s["kind"] = "multi"
    s.setdefault("kind", "solid")
    s["difficulty"] = "many colours in one subject; loose fruit beside it is not wanted"
    return s


# ---- tools, lying
def tool_geo(c):
    m, g = c.mat(["metal", "metal", "gloss", "matte"], uv=False), c.mat(["matte", "gloss", "wood", "stripes"], uv=False)
    k = c.pick("scissors", "scissors", "spanner", "hammer", "key", "fork")
    y = 0.06
    P = lambda pts, n=30: curve([[a, y, b] for a, b in pts], n)
    if k == "scissors":
        o = c.u(0.08, 0.45)
        out = ""
        for sx in (-1, 1):
            bl = sheet(
                np.array(
                    [
                        [
                            [
                                sx * o * t * 1.2 + sx * w * 0.13 * (1 - t) * (1 if sx * w > 0 else 0.3),
                                y + 0.01 * sx,
                                t * 1.7 - 0.1,
                            ]
                            for w in (-1, 1)
                        ]
                        for t in np.linspace(0, 1, 12)
                    ]
                ),
                m,
                False,
            )
            R = c.u(0.22, 0.32)
            hx, hz = -sx * (o * 0.7 + 0.28), -1.05
            ring = np.array(
                [[hx + R * 0.8 * math.cos(a), y, hz + R * 1.25 * math.sin(a)] for a in np.linspace(0, 2 * math.pi, 40)]
            )
            out += (
                bl
                + tube(
                    P([(sx * 0.03, 0.1), (-sx * 0.05, -0.25), (hx * 0.85, hz + R * 1.1)]),
                    np.linspace(0.07, 0.06, 30),
                    g,
                    8,
                )
                + tube(ring, c.u(0.05, 0.08), g, 10)
            )
        out += "cylinder{<0,0,0>,<0,.13,0>,.08 %s}" % m
        r = 1.4
    elif k == "spanner":
        out = (
            "difference{ union{ cylinder{<0,0,1.3>,<0,.12,1.3>,.36} box{<-.13,.01,-1.2>,<.13,.11,1.2>} cylinder{<0,0,-1.3>,<0,.12,-1.3>,.3} } box{<-.16,-.1,1.25>,<.16,.3,1.9> rotate y*0} cylinder{<0,-.1,-1.3>,<0,.3,-1.3>,%.2f} %s}"
            % (c.u(0.12, 0.2), m)
        )
        r = 1.6
    elif k == "hammer":
        out = (
            tube(
                P([(0, -1.5), (0.02, -0.4), (0, 1.2)]),
                np.concatenate([np.linspace(0.13, 0.1, 10), np.linspace(0.1, 0.08, 20)]),
                g,
                12,
            )
            + "superellipsoid{<.3,.3> scale <.4,.14,.15> translate <-.05,.08,1.2> %s}" % m
            + "cylinder{<.3,.08,1.2>,<.6,.08,1.2>,.17 %s}" % m
            + sheet(
                np.array(
                    [
                        [
                            [-0.4 - t * 0.4, 0.1 + w * 0.12 * (1 - t), 1.2 + v * 0.13]
                            for w, v in ((-1, -1), (1, -1), (1, 1), (-1, 1), (-1, -1))
                        ]
                        for t in np.linspace(0, 1, 5)
                    ]
                ),
                m,
                False,
            )
        )
        r = 1.6
    elif k == "key":
        out = (
            "torus{.38,.1 translate <0,.1,-1> %s}" % m
            + rod([0, 0.1, -0.6], [0, 0.1, 1.2], 0.09, m)
            + "".join(
                "box{<0,.03,%.2f>,<%.2f,.17,%.2f> %s}" % (z, c.u(0.25, 0.45), z + 0.12, m) for z in (0.7, 0.9, 1.1)
            )
        )
        r = 1.4
    else:
        out = (
            tube(P([(0, -1.5), (0.03, -0.3), (0, 0.5)]), np.linspace(0.11, 0.06, 30), m, 10)
            + sheet(
                np.array(
                    [
                        [[w * 0.3 * math.sin(0.4 + t * 1.2), y + 0.03, 0.4 + t * 0.5] for w in (-1, 0, 1)]
                        for t in np.linspace(0, 1, 8)
                    ]
                ),
                m,
            )
            + "".join(rod([x, y + 0.03, 0.85], [x * 1.02, y + 0.06, 1.6], 0.035, m) for x in (-0.27, -0.09, 0.09, 0.27))
        )
        r = 1.5
    return "union{%s rotate y*%.0f}" % (out, c.u(0, 360))


def tools(c):
    s = setup(
        c,
        0.2,
        1.5,
        el=(0.7, 1.4),
        kinds=["photo", "surface", "surface", "surface", "pattern", "mottled", "plain"],
        table=0,
        blurs=(0, 3),
    )
    s["dist"] = 7
    s["at"] = [0, 0.1, 0]
    s["size"] = c.u(0.04, 0.2)
    s["subject"] = tool_geo(c)
    alikes(c, s, tool_geo, 1.1, 0.4, (1, 2))
    s.setdefault("kind", "solid")
    s["difficulty"] = "lying on a surface, holes in handles, metal mirrors the place"
    return s


# ---- stacks of books
def books_geo(c):
    out = ""
    y = 0.0
    for i in range(int(c.rng.integers(3, 9))):
        h = c.u(0.08, 0.3)
        w, d = c.u(0.75, 1.1), c.u(0.5, 0.75)
        cv = c.mat(["matte", "gloss", "stripes", "photo", "mottle", "matte"], uv=False)
        pg = c.tex("gradient y color_map{[0 rgb <.75,.7,.55>][1 rgb <.5,.46,.36>]} scale .02")
        out += (
            "union{ box{<%.3f,0,%.3f>,<%.3f,.02,%.3f> %s} box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s} box{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f> %s} box{<%.3f,.01,%.3f>,<%.3f,%.3f,%.3f> %s} rotate y*%.0f translate <%.3f,%.3f,%.3f>}"
            % (
                -w,
                -d,
                w,
                d,
                cv,
                -w,
                h - 0.02,
                -d,
                w,
                h,
                d,
                cv,
                -w,
                -d,
                w,
                h,
                -d + 0.03,
                cv,
                -w + 0.04,
                -d + 0.01,
                w - 0.03,
                h - 0.01,
                d - 0.04,
                pg,
                c.u(-18, 18) + 180 * (c.rng.random() < 0.3),
                c.u(-0.1, 0.1),
                y,
                c.u(-0.1, 0.1),
            )
        )
        y += h
    if c.chance(0.5):
        out += "union{%s scale .45 translate <%.2f,%.3f,0>}" % (c.pick(jug, toy)(c), c.u(-0.3, 0.3), y)
    return out


def books(c):
    s = setup(c, 1.6, 1.1, el=(0.1, 0.7))
    s["subject"] = books_geo(c)
    alikes(c, s, books_geo, 1.1, 0.3, (1, 2))
    occluder(c, s, 1.4, 1.1, 0.25)
    s.setdefault("kind", "solid")
    s["difficulty"] = "box-like parts of many colours, pages like a pale backdrop"
    return s


# ---- statues: blobs
def statue_geo(c):
    tx = c.mat(["marble", "mottle", "metal", "matte", "gloss"], uv=False)
    out = "blob{threshold .5 "
    n = int(c.rng.integers(5, 11))
    p = np.array([0, 0.8, 0])
    for i in range(n):
        r = c.u(0.4, 0.85)
        out += "sphere{%s,%.3f,1}" % (vec(p), r)
        q = p + c.rng.normal(0, 0.38, 3) * [1, 0.6, 0.8] + [0, c.u(0.1, 0.4), 0]
        out += "cylinder{%s,%s,%.3f,1}" % (vec(p), vec(q), c.u(0.25, 0.5))
        p = q * [0.8, 1, 0.8]
    for _ in range(int(c.rng.integers(0, 4))):
        a = np.array([c.u(-0.3, 0.3), c.u(0.9, 2.0), 0])
        b = a + c.rng.normal(0, 0.6, 3)
        out += "cylinder{%s,%s,%.3f,1}" % (vec(a), vec(b), c.u(0.18, 0.3))
    out += "sphere{%s,.6,1} %s}" % (vec(p + [0, 0.3, 0]), tx)
    w = c.u(0.5, 0.8)
    return out + "box{<%.2f,0,%.2f>,<%.2f,%.2f,%.2f> %s}" % (
        -w,
        -w,
        w,
        c.u(0.3, 0.6),
        w,
        c.mat(uv=False) if c.chance(0.5) else tx,
    )


def statue(c):
    s = setup(c, 2.8, 0.9, el=(-0.05, 0.4))
    s["subject"] = statue_geo(c)
    alikes(c, s, statue_geo, 1.0, 0.2, (1, 1))
    occluder(c, s, 2.6, 0.9, 0.15)
    s.setdefault("kind", "solid")
    s["difficulty"] = "smooth form, shading from light to dark, stone before stone"
    return s


# ---- outlines filled with real texture, over real texture
def silhouette(c, N=1400, kind=None):
    """smooth closed outline in -1..1, filled by signed parts; returns polygons"""
    k = kind or c.pick("leaf", "stone", "bird", "bird", "star", "blob", "bottle", "mitten")
    t = np.linspace(0, 2 * np.pi, N, endpoint=False)
    C = lambda p: curve(np.vstack([p, p[:1]]), N)
    if k == "leaf":
        w = c.u(0.25, 0.55)
        s = np.sin(t)
        x = np.cos(t)
        y = w * np.sin(t) * (1 - 0.6 * x) * (1 + c.u(0, 0.12) * np.sin(int(c.u(8, 30)) * np.abs(t - np.pi)))
        polys = [
            np.stack([x, y + 0.15 * np.sin(2 * x)], 1),
            C(np.array([[-0.95, -0.02], [-1.35, -0.1 + c.u(-0.1, 0.1)], [-1.37, -0.04], [-0.95, 0.05]])),
        ]
    elif k in ("stone", "blob"):
        r = 1 + sum(
            c.u(0, (0.25 if k == "blob" else 0.1)) / f**0.5 * np.cos(f * t + c.u(0, 6.28))
            for f in range(2, 8 if k == "blob" else 5)
        )
        polys = [np.stack([r * np.cos(t), r * c.u(0.6, 1) * np.sin(t)], 1)]
    elif k == "bird":
        j = lambda a: np.array(a) + c.rng.normal(0, 0.03, (len(a), 2))
        b = j(
            [
                [-1.25, -0.1],
                [-0.7, -0.28],
                [-0.1, -0.4],
                [0.4, -0.36],
                [0.62, -0.6],
                [0.85, -0.66],
                [0.98, -0.5],
                [1.2, -0.43],
                [0.97, -0.36],
                [0.75, -0.05],
                [0.4, 0.3],
                [0, 0.4],
                [-0.4, 0.25],
                [-0.8, 0.08],
                [-1.3, 0.12],
            ]
        )
        polys = [C(b)]
        if c.chance(0.5):
            up = c.pick(-1, 1)
            polys.append(
                C(j([[0.3, -0.2], [0.1, 0.9 * up], [-0.2, 1.2 * up], [-0.5, 1.25 * up], [-0.45, 0.8 * up], [-0.4, 0]]))
            )
        for x in (-0.05, 0.15):
            polys.append(
                np.array([[x, 0.3], [x + 0.04, 0.3], [x + 0.06, 0.75], [x + 0.16, 0.78], [x, 0.8], [x + 0.01, 0.75]])
            )
    elif k == "star":
        n = int(c.rng.integers(4, 9))
        d = c.u(0.2, 0.45)
        r = 1 - d + d * np.cos(n * t)
        polys = [np.stack([r * np.cos(t), r * np.sin(t)], 1)]
    elif k == "bottle":
        h = c.u(0.2, 0.4)
        polys = [
            C(
                np.array(
                    [
                        [-0.4, 1],
                        [-0.42, 0.9],
                        [-0.42, -0.1],
                        [-0.3, -0.45],
                        [-0.13, -0.6],
                        [-0.12, -1.0],
                        [0, -1.03],
                        [0.12, -1.0],
                        [0.13, -0.6],
                        [0.3, -0.45],
                        [0.42, -0.1],
                        [0.42, 0.9],
                        [0.4, 1],
                        [0, 1.02],
                    ]
                )
            )
        ]
    else:
        polys = [
            C(
                np.array(
                    [
                        [-0.4, 1],
                        [-0.45, 0.2],
                        [-0.85, -0.1],
                        [-0.95, -0.45],
                        [-0.7, -0.5],
                        [-0.42, -0.2],
                        [-0.4, -0.8],
                        [0, -1.1],
                        [0.4, -0.8],
                        [0.45, 0.1],
                        [0.38, 1],
                    ]
                )
            )
        ]
    a = c.u(-0.5, 0.5) if k in ("bird", "bottle", "mitten") else c.u(0, 6.28)
    R = np.array([[math.cos(a), -math.sin(a)], [math.sin(a), math.cos(a)]])
    fl = c.pick(-1, 1)
    out = [(p * [fl, 1]) @ R.T for p in polys]
    return out, k


def raster(polys, W, H, cx, cy, s):
    k = 4
    m = np.zeros((H * k, W * k), np.uint8)
    for p in polys:
        cv2.fillPoly(m, [np.round((p * s + [cx, cy]) * k * 16).astype(np.int32)], 255, cv2.LINE_8, 4)
    return cv2.resize(m.astype(np.float32) / 255, (W, H), interpolation=cv2.INTER_AREA)


def patch(c):
    W, H, rng = c.W, c.H, c.rng
    B = backdrop(c, c.pick("photo", "surface", "surface", "photo"), (0, 5))
    want = math.exp(c.u(math.log(0.06), math.log(0.4)))
    polys, k = silhouette(c)
    ar = raster(polys, 300, 300, 150, 150, 80).sum() / 80**2
    s = math.sqrt(want * W * H / ar)
    al = np.vstack(polys)
    ex = np.abs(al).max(0) * s
    s *= min(1, 0.62 * W / ex[0] / 1.2, 0.62 * H / ex[1] / 1.2)
    ex = np.abs(al).max(0) * s
    cx = W / 2 + c.u(-1, 1) * max(20, W / 2 - ex[0])
    cy = H / 2 + c.u(-1, 1) * max(20, H / 2 - ex[1])
    e, im = c.photos.pick(rng, "texture" if c.chance(0.75) else "scene")
    c.used.append(e["id"])
    F = to_lin(crop_to(im, W, H, rng, (1.0, 2.2)))
    if c.chance(0.35):
        F = F * (B.reshape(-1, 3).mean(0) / F.reshape(-1, 3).mean(0)) ** c.u(0.4, 1)
    F = np.clip(blur(F, c.u(0.4, 1.2)), 0, 1)
    a = raster(polys, W, H, cx, cy, s)
    if c.chance(0.75):  # rounded: darker on the side away from the light, by the distance to the outline
        d = cv2.distanceTransform((a > 0.5).astype(np.uint8), cv2.DIST_L2, 5)
        hgt = np.sqrt(np.clip(d / (d.max() + 1), 0, 1))
        hgt = blur(hgt, s * 0.06)
        gx, gy = cv2.Sobel(hgt, -1, 1, 0), cv2.Sobel(hgt, -1, 0, 1)
        th = c.u(0, 6.28)
        sh = (gx * math.cos(th) + gy * math.sin(th)) * s
        F = np.clip(F * np.clip(1 + c.u(0.06, 0.2) * sh, 0.25, 1.7)[..., None], 0, 1)
    if c.chance(0.75):  # a shadow on what lies behind
        o = c.u(0.02, 0.12) * s
        th = c.u(0, 6.28)
        M = np.float32([[1, 0, o * math.cos(th)], [0, 1, o * math.sin(th)]])
        B = B * (1 - c.u(0.25, 0.65) * blur(cv2.warpAffine(a, M, (W, H)), 0.3 * o + 1))[..., None]
    others = []
    lin = B
    if c.chance(0.35):  # a look-alike behind, not wanted
        p2, _ = silhouette(c, kind=k)
        s2 = s * c.u(0.5, 0.9)
        a2 = raster(p2, W, H, (cx + W * c.u(0.35, 0.65)) % W, (cy + H * c.u(-0.2, 0.2)), s2)
        F2 = np.roll(F, (W // 3, H // 4), (1, 0)) * c.u(0.7, 1.1)
        lin = lin * (1 - a2[..., None]) + F2 * a2[..., None]
        others.append(a2 * (1 - a))
    g = c.pick(0.45, 0.6, 1.0, 1.8)
    a = np.clip(cv2.GaussianBlur(a, (0, 0), g), 0, 1)
    c.layers = (F * a[..., None], a, a, lin)
    lin = lin * (1 - a[..., None]) + F * a[..., None]
    return dict(
        lin=lin,
        alpha=a,
        others=others,
        kind="multi" if others else "solid",
        difficulty="a %s of real texture on real texture" % k,
    )


FAMILIES = dict(
    furball=furball,
    vase=vase,
    chair=chair,
    plant=plant,
    wire=wire,
    blocks=blocks,
    lantern=lantern,
    cloth=cloth,
    fruit=fruit,
    tools=tools,
    books=books,
    statue=statue,
    patch=patch,
)
