"""More families: buildings, figures, vehicles, with a sky and land behind them."""
import math
import numpy as np
from core import *
from families import setup, side, alikes, occluder, FAMILIES as GIVEN


def landscape(c):
    """A sky with clouds over hills and ground, all drawn; linear RGB."""
    w, h, rng = c.W, c.H, c.rng
    yy, xx = np.mgrid[0:h, 0:w].astype(np.float32)
    horizon = c.u(0.35, 0.8) * h
    t = np.clip(yy / max(1, horizon), 0, 1)[..., None]
    top, low = rand_col(rng, 0.1, 0.7, c.u(0.2, 0.8)), rand_col(rng, 0.4, 0.95, c.u(0, 0.35))
    if c.chance(0.7):
        top = np.array([c.u(0.05, 0.3), c.u(0.15, 0.45), c.u(0.4, 0.85)])
        low = np.array([c.u(0.5, 0.9), c.u(0.6, 0.9), c.u(0.7, 0.95)])
    sky = top * (1 - t) + low * t
    if c.chance(0.8):
        n = noise(rng, w, h, 6, int(rng.integers(2, 6)), c.u(0.45, 0.65))
        lo = c.u(0.3, 0.7)
        cl = np.clip((n - lo) / c.u(0.08, 0.4), 0, 1)[..., None]
        sky = sky * (1 - cl * c.u(0.4, 1)) + cl * c.u(0.4, 1) * np.ones(3) * c.u(0.5, 0.95)
    im = sky
    base = horizon
    for i in range(int(rng.integers(1, 4))):
        prof = base + (noise(rng, w, 2, 5, int(rng.integers(2, 7)), 0.5)[0] - 0.5) * h * c.u(0.03, 0.25)
        m = np.clip(yy - prof[None] + 0.5, 0, 1)[..., None]
        a = (
            np.array([c.u(0.03, 0.3), c.u(0.06, 0.3), c.u(0.02, 0.2)])
            if c.chance(0.7)
            else rand_col(rng, 0.03, 0.5, 0.4)
        )
        tex = 0.6 + 0.8 * noise(rng, w, h, 8, int(rng.integers(8, 40)), c.u(0.6, 0.9))[..., None]
        im = im * (1 - m) + np.clip(a * tex, 0, 1) * m
        base = base + h * c.u(0.02, 0.15)
    return np.clip(blur(im.astype(np.float32), c.u(0.3, 2)), 0, 1).astype(np.float32)


def outdoors(c, *a, **k):
    s = setup(c, *a, **k)
    if c.chance(0.65):
        s["B"] = landscape(c)
        s["backdrop_kind"] = "plain"
    return s


def wall(c, x0, x1, y0, y1, z0, z1, tx, trim, glass):
    """A block with rows of windows on its front and its right side, sunk in."""
    out = "difference{box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>}" % (x0, y0, z0, x1, y1, z1)
    extra = ""
    nx, ny = max(1, int((x1 - x0) / c.win)), max(1, int((y1 - y0) / c.storey))
    arch = c.arch
    for i in range(nx):
        for j in range(ny):
            cx = x0 + (i + 0.5) * (x1 - x0) / nx
            cy = y0 + (j + 0.55) * (y1 - y0) / ny
            ww, hh = 0.5 * c.wide * (x1 - x0) / nx, 0.5 * c.high * (y1 - y0) / ny
            if j == 0 and i == nx // 2:
                hh *= 1.35
                cy = y0 + hh
            out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>}" % (cx - ww, cy - hh, z0 - 0.1, cx + ww, cy + hh, z0 + 0.12)
            if arch:
                out += "cylinder{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>,%.3f}" % (
                    cx,
                    cy + hh,
                    z0 - 0.1,
                    cx,
                    cy + hh,
                    z0 + 0.12,
                    ww,
                )
            extra += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
                cx - ww,
                cy - hh,
                z0 + 0.1,
                cx + ww,
                cy + hh + (ww if arch else 0),
                z0 + 0.13,
                glass,
            )
    nz = max(1, int((z1 - z0) / c.win))
    for i in range(nz):
        for j in range(ny):
            cz = z0 + (i + 0.5) * (z1 - z0) / nz
            cy = y0 + (j + 0.55) * (y1 - y0) / ny
            ww, hh = 0.5 * c.wide * (z1 - z0) / nz, 0.5 * c.high * (y1 - y0) / ny
            for x, s in ((x1, 1), (x0, -1)):
                out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>}" % (
                    min(x - s * 0.12, x + s * 0.1),
                    cy - hh,
                    cz - ww,
                    max(x - s * 0.12, x + s * 0.1),
                    cy + hh,
                    cz + ww,
                )
                extra += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
                    min(x - s * 0.13, x - s * 0.1),
                    cy - hh,
                    cz - ww,
                    max(x - s * 0.13, x - s * 0.1),
                    cy + hh,
                    cz + ww,
                    glass,
                )
    out += " %s}" % tx
    if c.chance(0.7):
        out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
            x0 - 0.05,
            y1 - 0.05,
            z0 - 0.05,
            x1 + 0.05,
            y1 + 0.03,
            z1 + 0.05,
            trim,
        )
    return out + extra


def roof(c, x0, x1, y, z0, z1, tx):
    k = c.pick("gable", "hip", "dome", "flat", "cone", "gable")
    cx, cz = (x0 + x1) / 2, (z0 + z1) / 2
    w, d = x1 - x0, z1 - z0
    h = min(w, d) * c.u(0.25, 0.9)
    if k == "gable":
        return (
            "prism{linear_sweep linear_spline %.3f,%.3f,4,<%.3f,0>,<%.3f,0>,<%.3f,%.3f>,<%.3f,0> rotate x*-90 translate <0,%.3f,%.3f> %s}"
            % (0, d * 1.08, x0 - 0.06, x1 + 0.06, cx, h, x0 - 0.06, y, z1 + d * 0.04, tx)
        )
    if k == "hip":
        return mesh2(
            [
                [x0 - 0.05, y, z0 - 0.05],
                [x1 + 0.05, y, z0 - 0.05],
                [x1 + 0.05, y, z1 + 0.05],
                [x0 - 0.05, y, z1 + 0.05],
                [cx, y + h, cz],
            ],
            [[0, 1, 4], [1, 2, 4], [2, 3, 4], [3, 0, 4]],
            tx,
            smooth=False,
        )
    if k == "dome":
        r = min(w, d) * 0.48
        return "sphere{0,1 scale <%.3f,%.3f,%.3f> translate <%.3f,%.3f,%.3f> %s}" % (
            r,
            r * c.u(0.8, 1.5),
            r,
            cx,
            y,
            cz,
            tx,
        ) + "cone{<%.3f,%.3f,%.3f>,%.3f,<%.3f,%.3f,%.3f>,.01 %s}" % (cx, y + r, cz, r * 0.12, cx, y + r * 2, cz, tx)
    if k == "cone":
        return "cone{<%.3f,%.3f,%.3f>,%.3f,<%.3f,%.3f,%.3f>,0 %s}" % (cx, y, cz, min(w, d) * 0.6, cx, y + h * 2, cz, tx)
    return (
        "".join(
            "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (x, y, z0, x + 0.12, y + 0.15, z0 + 0.1, tx)
            for x in np.arange(x0, x1 - 0.1, 0.25)
        )
        if c.chance(0.5)
        else ""
    )


def building_geo(c):
    c.win, c.storey, c.wide, c.high, c.arch = (
        c.u(0.3, 0.8),
        c.u(0.45, 0.9),
        c.u(0.3, 0.65),
        c.u(0.35, 0.65),
        c.chance(0.4),
    )
    mats = ["matte", "matte", "mottle", "photo", "marble", "stripes"]
    tx, t2, rf = (c.mat(mats, uv=False) for _ in range(3))
    gl = c.tex(c.rgb(rand_col(c.rng, 0.005, 0.12, 0.5)), c.pick("", "reflection .3 specular .5"))
    w, h, d = c.u(1, 3.2), c.u(0.8, 2.6), c.u(0.8, 2)
    out = wall(c, -w / 2, w / 2, 0, h, -d / 2, d / 2, tx, t2, gl) + roof(c, -w / 2, w / 2, h, -d / 2, d / 2, rf)
    top = h
    for _ in range(int(c.rng.integers(0, 3))):  # wings and towers
        ww, dd, hh = w * c.u(0.2, 0.7), d * c.u(0.5, 1.1), h * c.u(0.4, 2.1)
        x = c.pick(-1, 1) * (w / 2 + ww * c.u(-0.2, 0.45))
        z = c.u(-0.3, 0.3)
        out += wall(c, x - ww / 2, x + ww / 2, 0, hh, z - dd / 2, z + dd / 2, c.pick(tx, tx, t2), t2, gl) + roof(
            c, x - ww / 2, x + ww / 2, hh, z - dd / 2, z + dd / 2, rf
        )
        top = max(top, hh)
    if c.chance(0.35):  # columns before the front
        n = int(c.rng.integers(3, 9))
        r = c.u(0.05, 0.1)
        for i in range(n):
            x = -w / 2 + (i + 0.5) * w / n
            out += "cylinder{<%.3f,0,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (
                x,
                -d / 2 - 0.35,
                x,
                h * 0.85,
                -d / 2 - 0.35,
                r,
                t2,
            )
        out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
            -w / 2,
            h * 0.83,
            -d / 2 - 0.5,
            w / 2,
            h * 0.95,
            -d / 2,
            t2,
        )
    if c.chance(0.4):
        out += "box{<%.3f,0,%.3f>,<%.3f,.12,%.3f> %s}" % (-w * 0.6, -d * 0.9, w * 0.6, d * 0.6, t2)
    return "union{%s rotate y*%.0f}" % (out, c.u(-40, 40)), top, w


def building(c):
    s = outdoors(c, 2.2, 1.6, el=(-0.03, 0.3), kinds=["photo", "photo", "plain", "mottled"], table=0.2, near=0.25)
    s["subject"], h, w = building_geo(c)
    s["at"] = [0, h / 2, 0]
    s["radius"] = w * 0.6
    s["dist"] = max(h, w) * c.u(2.2, 4)
    s["size"] = math.exp(c.u(math.log(0.08), math.log(0.6)))
    s["maxext"] = c.u(0.8, 1.05)
    occluder(c, s, h, w * 0.6, 0.45)
    s.setdefault("kind", "solid")
    s["difficulty"] = "dark windows, shaded sides, several parts"
    return s


def figure_geo(c):
    """A standing figure of tapered limbs, clothed in several colours, with hair."""
    skin = c.tex(c.rgb(np.array([0.75, 0.5, 0.38]) * c.u(0.15, 1.1)), "specular .1")
    top, low, shoe, hair = (
        c.mat(["matte", "matte", "stripes", "spots", "mottle", "gloss"], uv=False) for _ in range(4)
    )
    H = lambda: c.u(-0.12, 0.12)
    out = ""
    hip, neck = np.array([0, 1.0, 0]), np.array([H(), 1.62, H()])
    hd = neck + [H() * 0.5, 0.22, H() * 0.5]

    def limb(pts, r, tx):
        return tube(curve(pts, 18), np.interp(np.linspace(0, 1, 18), np.linspace(0, 1, len(r)), r), tx, 10)

    skirt = c.chance(0.35)
    seat = c.chance(0.15)
    for s in (-1, 1):
        x = s * 0.13
        step = c.u(-0.3, 0.3)
        knee = [x + s * c.u(0, 0.1), 0.52, -abs(step) * 0.4]
        foot = [x + s * c.u(0, 0.15), 0.07, step]
        out += limb(
            [[x, 1.0, 0], knee, foot], [0.125, 0.09, 0.065], low if c.chance(0.9) and not skirt else skin
        ) + "sphere{0,1 scale <.075,.07,.15> translate <%.3f,.06,%.3f> %s}" % (foot[0], foot[2] - 0.06, shoe)
        el = neck + [s * c.u(0.28, 0.42), -c.u(0.15, 0.42), c.u(-0.25, 0.2)]
        ha = el + [s * c.u(-0.25, 0.3), c.u(-0.35, 0.4), c.u(-0.3, 0.1)]
        out += limb(
            [neck + [s * 0.17, -0.1, 0], el, ha], [0.08, 0.06, 0.045], top if c.chance(0.75) else skin
        ) + "sphere{%s,.06 %s}" % (vec(ha), skin)
        if c.chance(0.15):
            out += "box{-1,1 scale <.16,.13,.07> translate %s %s}" % (vec(ha - [0, 0.22, 0]), c.mat(uv=False))
    out += limb(
        [hip - [0, 0.08, 0], hip + [0, 0.3, 0], neck - [0, 0.12, 0], neck], [0.19, c.u(0.15, 0.24), 0.2, 0.07], top
    ) + limb([neck - [0, 0.05, 0], neck + [0, 0.1, 0]], [0.06, 0.06], skin)
    if skirt:
        l = c.u(0.35, 0.85)
        out += revolve(
            [[0.001, 1.08], [0.2, 1.08], [c.u(0.28, 0.5), 1.08 - l], [0.001, 1.08 - l]],
            low,
            36,
            lambda t, y: 1 + 0.06 * np.sin(9 * t),
        )
    out += "sphere{0,1 scale <.12,.155,.135> translate %s %s}" % (vec(hd), skin)
    k = c.pick("short", "long", "hat", "fur")
    if k in ("short", "long"):
        out += "sphere{0,1 scale <.135,.14,.14> translate %s %s}" % (vec(hd + [0, 0.045, 0.035]), hair)
    if k == "long":
        out += limb(
            [hd + [0, 0.05, 0.08], hd + [0, -0.15, 0.13], hd + [c.u(-0.1, 0.1), -c.u(0.25, 0.6), 0.15]],
            [0.12, 0.12, 0.05],
            hair,
        )
    if k == "hat":
        out += "cylinder{<0,0,0>,<0,.02,0>,.24 translate %s %s}" % (
            vec(hd + [0, 0.08, 0]),
            hair,
        ) + "cone{0,.14,<0,.16,0>,.1 translate %s %s}" % (vec(hd + [0, 0.08, 0]), hair)
    if k == "fur":
        q = sphere_pts(1400, c.rng)
        q = q[(q[:, 1] > -0.2) & (q[:, 2] > -0.55)]
        out += fur(hd + [0, 0.03, 0.02] + q * 0.13, q, c.u(0.06, 0.3), 0.004, c.rng, hair, c.u(0.2, 0.9), c.u(0.2, 0.7))
    return "union{%s rotate y*%.0f}" % (out, c.u(-90, 90))


def figure(c):
    s = outdoors(c, 1.9, 0.5, el=(-0.05, 0.35), table=0.2)
    s["subject"] = figure_geo(c)
    s["maxext"] = c.u(0.8, 1.1)
    alikes(c, s, figure_geo, 0.5, 0.35, (1, 3))
    occluder(c, s, 1.8, 0.5, 0.15)
    s.setdefault("kind", "solid")
    s["difficulty"] = "many colours in one figure"
    return s


def vehicle_geo(c):
    p, g, t, m = (
        c.mat(["gloss", "gloss", "matte", "stripes", "metal"], uv=False),
        c.tex(c.rgb(rand_col(c.rng, 0.01, 0.1, 0.4)), "reflection .35 specular .6"),
        c.mat(["matte"], col=[0.02, 0.02, 0.022]),
        c.mat(["metal"], uv=False),
    )
    L, H, W = c.u(1.6, 3), c.u(0.45, 0.8), c.u(0.7, 0.95)
    r = c.u(0.24, 0.4)
    out = "superellipsoid{<%.2f,%.2f> scale <%.3f,%.3f,%.3f> translate y*%.3f %s}" % (
        c.u(0.12, 0.4),
        c.u(0.12, 0.4),
        L / 2,
        H / 2,
        W / 2,
        r + H * 0.45,
        p,
    )
    ch = c.u(0.35, 0.9)
    cl = L * c.u(0.25, 0.48)
    cx = c.u(-0.25, 0.25) * L
    out += "superellipsoid{<.3,.3> scale <%.3f,%.3f,%.3f> translate <%.3f,%.3f,0> %s}" % (
        cl / 2,
        ch / 2,
        W * 0.45,
        cx,
        r + H * 0.9 + ch * 0.3,
        p,
    )
    n = int(c.rng.integers(1, 4))
    for i in range(n):
        a = cx - cl * 0.42 + i * cl * 0.84 / n
        out += "box{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f> %s}" % (
            a + 0.03,
            r + H * 0.95,
            -W * 0.46,
            a + cl * 0.84 / n - 0.03,
            r + H * 0.9 + ch * 0.65,
            W * 0.46,
            g,
        )
    for x in [-L * 0.32, L * 0.32] + ([0] if c.chance(0.2) else []):
        for z in (-1, 1):
            out += "torus{%.3f,%.3f rotate x*90 translate <%.3f,%.3f,%.3f> %s}" % (
                r * 0.72,
                r * 0.28,
                x,
                r,
                z * W * 0.48,
                t,
            ) + "cylinder{<%.3f,%.3f,%.3f>,<%.3f,%.3f,%.3f>,%.3f %s}" % (
                x,
                r,
                z * W * 0.42,
                x,
                r,
                z * W * 0.53,
                r * 0.55,
                m,
            )
    if c.chance(0.5):
        out += "".join(
            "sphere{<%.3f,%.3f,%.3f>,.09 %s}" % (L / 2 * 0.97, r + H * 0.5, z * W * 0.33, m) for z in (-1, 1)
        )
    return "union{%s rotate y*%.0f}" % (out, c.u(0, 360))


def vehicle(c):
    s = outdoors(c, 1.3, 1.3, el=(0, 0.45), table=0.2)
    s["subject"] = vehicle_geo(c)
    alikes(c, s, vehicle_geo, 1.3, 0.3, (1, 2))
    occluder(c, s, 1.3, 1.2, 0.25)
    s.setdefault("kind", "solid")
    s["difficulty"] = "mirrors the place, dark wheels"
    return s


MORE = dict(building=building, figure=figure, vehicle=vehicle)
FAMILIES = dict(GIVEN, **MORE)
