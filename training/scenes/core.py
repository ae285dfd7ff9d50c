"""Core of the scene generator: photographs, backdrops, camera, rendering, composition, hints.  Families live in families_*.py."""
import os, re, json, math, time, subprocess, tempfile, zlib, shutil
import numpy as np, cv2

cv2.setNumThreads(1)
HERE = os.path.dirname(os.path.abspath(__file__))
DOC = "/usr/share/doc/opencv-doc"


def to_lin(s):
    s = s.astype(np.float32)
    return np.where(s <= 0.04045, s / 12.92, ((s + 0.055) / 1.055) ** 2.4).astype(np.float32)


def to_srgb(l):
    l = np.clip(l, 0, 1)
    return np.where(l <= 0.0031308, l * 12.92, 1.055 * np.power(np.maximum(l, 1e-9), 1 / 2.4) - 0.055)


def q8(x):
    return np.clip(np.round(x * 255.0), 0, 255).astype(np.uint8)


def blur(a, s):
    return a if s < 0.2 else cv2.GaussianBlur(a, (0, 0), s, borderType=cv2.BORDER_REFLECT)


# ---------------------------------------------------------------- photographs of Debian packages
_rcc = {}


def load_photo(e):
    """e: entry of photos_*.json; gives sRGB 0..1 RGB float32 or None when the package is missing."""
    f = e["file"]
    if "#" in f:  # picture number n inside a resource file (webp)
        f, n = f.rsplit("#", 1)
        if not os.path.exists(f):
            return None
        if f not in _rcc:
            d = open(f, "rb").read()
            _rcc[f] = (d, [m.start() for m in re.finditer(rb"RIFF....WEBP", d, re.S)])
        d, offs = _rcc[f]
        s = offs[int(n)]
        ln = int.from_bytes(d[s + 4 : s + 8], "little") + 8
        im = cv2.imdecode(np.frombuffer(d[s : s + ln], np.uint8), 1)
    else:
        if not os.path.exists(f):
            return None
        im = cv2.imread(f, cv2.IMREAD_COLOR)
    if im is None:
        return None
    h, w = im.shape[:2]
    if "region" in e:
        x0, y0, x1, y1 = e["region"]
        im = im[int(y0 * h) : int(y1 * h), int(x0 * w) : int(x1 * w)]
    k = 2200.0 / max(im.shape[:2])
    if k < 1:
        im = cv2.resize(im, None, fx=k, fy=k, interpolation=cv2.INTER_AREA)
    return im[:, :, ::-1].astype(np.float32) / 255.0


class Photos:
    def __init__(self, which, turn=0):
        self.which, self.turn, self.n = which, turn, 0
        self.all = [e for e in json.load(open(os.path.join(HERE, "photos_%s.json" % which)))]

    def pick(self, rng, role, at=None):
        """the photographs take turns: families and seeds next to each other get different ones"""
        c = [e for e in self.all if role in e["use"].split()]
        c = [c[i] for i in np.random.default_rng(5).permutation(len(c))]
        for _ in range(len(c)):
            e = c[(self.turn + 7 * self.n) % len(c)]
            self.n += 1
            im = load_photo(e)
            if im is not None:
                return e, im
        raise SystemExit("no photographs for %s: install the packages of the README" % role)


def crop_to(im, w, h, rng, zoom=(1.0, 1.7), flip=True):
    """a random w x h crop of im, enlarged if need be."""
    H, W = im.shape[:2]
    s = min(W / w, H / h)
    z = rng.uniform(*zoom)
    cw, ch = int(w * s / z), int(h * s / z)
    x = rng.integers(0, W - cw + 1)
    y = rng.integers(0, H - ch + 1)
    c = im[y : y + ch, x : x + cw]
    c = cv2.resize(c, (w, h), interpolation=cv2.INTER_AREA if cw > w else cv2.INTER_CUBIC)
    if flip and rng.random() < 0.5:
        c = c[:, ::-1]
    return np.clip(np.ascontiguousarray(c), 0, 1)


def noise(rng, w, h, octaves=6, base=4, rough=0.55):
    out = np.zeros((h, w), np.float32)
    a = 1.0
    for o in range(octaves):
        n = base * 2**o
        if n > max(w, h):
            break
        out += a * cv2.resize(
            rng.random((max(2, int(n * h / w) + 2), n + 2), np.float32), (w, h), interpolation=cv2.INTER_CUBIC
        )
        a *= rough
    out -= out.min()
    return out / max(1e-6, out.max())


def rand_col(rng, lo=0.03, hi=0.8, sat=None):
    """random linear colour"""
    hgt = rng.random() * 6
    s = rng.random() ** 1.2 if sat is None else sat
    v = rng.uniform(lo, hi)
    rgb = np.clip(np.abs((hgt + np.array([0, 4, 2])) % 6 - 3) - 1, 0, 1)
    return v * (1 - s * (1 - rgb))


def pattern(rng, w, h):
    """strong patterns: stripes, checks, dots, tiles, brush motif; linear RGB"""
    k = rng.choice(["stripes", "checks", "dots", "tiles", "motif", "plaid"])
    a, b, c = rand_col(rng, 0.2, 0.8), rand_col(rng, 0.02, 0.5), rand_col(rng, 0.05, 0.7)
    th = rng.uniform(-0.5, 0.5) if rng.random() < 0.5 else 0
    p = rng.uniform(24, 110) * w / 900
    yy, xx = np.mgrid[0:h, 0:w].astype(np.float32)
    warp = (noise(rng, w, h, 3, 3) - 0.5) * rng.choice([0, 0, 30, 60])
    u = xx * np.cos(th) - yy * np.sin(th) + warp
    v = xx * np.sin(th) + yy * np.cos(th) + warp
    sm = lambda x: np.clip(x * 6 + 0.5, 0, 1)
    fu, fv = np.sin(u * 2 * np.pi / p), np.sin(v * 2 * np.pi / p)
    if k == "stripes":
        m = sm(fu)
    elif k == "checks":
        m = sm(fu * fv * 2)
    elif k == "dots":
        m = sm((((u / p) % 1 - 0.5) ** 2 + ((v / p) % 1 - 0.5) ** 2 - rng.uniform(0.05, 0.16)) * 8)
    elif k == "tiles":
        m = 1 - sm((np.minimum(np.abs((u / p) % 1 - 0.5), np.abs((v / p) % 1 - 0.5)) < 0.46) * 1.0 - 0.5) * 1.0
        m = ((np.abs((u / p) % 1 - 0.5) > 0.46) | (np.abs((v / p) % 1 - 0.5) > 0.46)) * 1.0
        cell = rng.random((80, 80)).astype(np.float32)[
            (np.floor(v / p).astype(int)) % 80, (np.floor(u / p).astype(int)) % 80
        ]
        im = a * (0.6 + 0.5 * cell[..., None]) * (1 - m[..., None]) + b * m[..., None]
        return np.clip(im, 0, 1).astype(np.float32)
    elif k == "plaid":
        im = a + (b - a) * (0.5 * sm(fu)[..., None] + 0.5 * sm(fv)[..., None])
        im = im * (1 - 0.5 * sm(np.sin(u * 6 * np.pi / p) - 0.8)[..., None])
        return np.clip(im, 0, 1).astype(np.float32)
    else:
        q = 96
        t = np.zeros((q, q, 3), np.float32) + a.astype(np.float32)
        for _ in range(rng.integers(3, 8)):
            col = [b, c][rng.integers(2)]
            ce = (int(rng.integers(q)), int(rng.integers(q)))
            ax = (int(rng.integers(4, 30)), int(rng.integers(3, 12)))
            an = float(rng.uniform(0, 180))
            for dx in (-q, 0, q):
                for dy in (-q, 0, q):
                    cv2.ellipse(t, (ce[0] + dx, ce[1] + dy), ax, an, 0, 360, tuple(map(float, col)), -1, cv2.LINE_AA)
        pp = p * 2
        mx = ((u / pp) % 1 * q).astype(np.float32)
        my = ((v / pp) % 1 * q).astype(np.float32)
        return cv2.remap(t, mx, my, cv2.INTER_LINEAR, borderMode=cv2.BORDER_WRAP)
    return (a * (1 - m[..., None]) + b * m[..., None]).astype(np.float32)


def plain(rng, w, h):
    a = rand_col(rng, 0.08, 0.75, rng.random() * 0.6)
    b = a * rng.uniform(0.35, 0.9) if rng.random() < 0.7 else rand_col(rng, 0.05, 0.7, 0.4)
    th = rng.random() * 6.28
    yy, xx = np.mgrid[0:h, 0:w]
    t = (xx / w - 0.5) * np.cos(th) + (yy / h - 0.5) * np.sin(th) + 0.5
    if rng.random() < 0.4:
        t = np.sqrt((xx / w - rng.random()) ** 2 + (yy / h - rng.random()) ** 2)
    t = np.clip(t, 0, 1)[..., None]
    im = a * (1 - t) + b * t
    return (im * (1 + 0.05 * (noise(rng, w, h, 7, 20, 0.9)[..., None] - 0.5))).astype(np.float32)


def mottled(rng, w, h):
    a, b = rand_col(rng, 0.05, 0.6), rand_col(rng, 0.05, 0.6)
    n = noise(rng, w, h, 8, int(rng.integers(3, 20)), rng.uniform(0.5, 0.85))[..., None]
    return np.clip(a + (b - a) * n + 0.06 * (rng.random((h, w, 1)) - 0.5), 0, 1).astype(np.float32)


def bokeh(rng, w, h):
    im = plain(rng, w, h) * 0.5
    for _ in range(rng.integers(15, 120)):
        l = np.zeros((h, w), np.float32)
        r = rng.uniform(0.01, 0.1) * w
        c = (int(rng.random() * w), int(rng.random() * h))
        (
            cv2.circle
            if rng.random() < 0.6
            else (lambda i, c, r, v, t, a: cv2.rectangle(i, c, (c[0] + r, c[1] + int(r * rng.uniform(0.5, 3))), v, t))
        )(l, c, int(r), 1.0, -1, cv2.LINE_AA)
        o = rng.uniform(0.3, 0.95)
        im = im * (1 - o * l[..., None]) + (o * l[..., None] * rand_col(rng, 0.03, 0.9)).astype(np.float32)
    return np.clip(blur(im, rng.uniform(0.5, 9)), 0, 1).astype(np.float32)


# ---------------------------------------------------------------- camera with a shifted window
class Cam:
    def __init__(s, loc, at, W, H, fov=60):
        s.L = np.array(loc, float)
        d = np.array(at, float) - s.L
        d /= np.linalg.norm(d)
        r = np.cross([0, 1, 0], d)
        r /= np.linalg.norm(r)
        u = np.cross(d, r)
        t = 2 * math.tan(math.radians(fov / 2))
        s.D, s.R, s.U = d, r * t, u * t * H / W
        s.W, s.H = W, H

    def window(s, x0, y0, x1, y1):
        """keep only the part x0..x1, y0..y1 of the picture (0..1, y down)"""
        s.D = s.D + ((x0 + x1) / 2 - 0.5) * s.R + (0.5 - (y0 + y1) / 2) * s.U
        s.R = s.R * (x1 - x0)
        s.U = s.U * (y1 - y0)

    def pov(s):
        f = lambda v: "<%.6f,%.6f,%.6f>" % tuple(v)
        return "camera{ perspective location %s direction %s right %s up %s }\n" % (f(s.L), f(s.D), f(s.R), f(s.U))

    def project(s, P):
        c = np.linalg.solve(np.stack([s.D, s.R, s.U], 1), (np.atleast_2d(P) - s.L).T)
        return np.stack([(c[1] / c[0] + 0.5) * s.W, (0.5 - c[2] / c[0]) * s.H], 1)

    def ground(s, y0=0.0):
        """ground coordinates x,z and distance for every pixel (nan above the horizon)"""
        yy, xx = np.mgrid[0 : s.H, 0 : s.W] + 0.5
        r = s.D + (xx / s.W - 0.5)[..., None] * s.R + (0.5 - yy / s.H)[..., None] * s.U
        t = np.where(r[..., 1] < -1e-4, (y0 - s.L[1]) / np.minimum(r[..., 1], -1e-4), np.nan)
        p = s.L + t[..., None] * r
        return p[..., 0], p[..., 2], t


# ---------------------------------------------------------------- geometry as meshes
def vec(v):
    return "<%.4f,%.4f,%.4f>" % (v[0], v[1], v[2])


def mesh2(V, F, tex, UV=None, smooth=True, extra=""):
    V = np.asarray(V, float)
    F = np.asarray(F, int)
    out = ["mesh2{vertex_vectors{%d," % len(V), ",".join("<%.4f,%.4f,%.4f>" % tuple(v) for v in V), "}"]
    if smooth:
        n = np.cross(V[F[:, 1]] - V[F[:, 0]], V[F[:, 2]] - V[F[:, 0]])
        N = np.zeros_like(V)
        for i in range(3):
            np.add.at(N, F[:, i], n)
        l = np.linalg.norm(N, axis=1, keepdims=True)
        N = np.where(l > 1e-12, N / np.maximum(l, 1e-12), [0, 1, 0])
        out += ["normal_vectors{%d," % len(N), ",".join("<%.3f,%.3f,%.3f>" % tuple(v) for v in N), "}"]
    if UV is not None:
        out += ["uv_vectors{%d," % len(UV), ",".join("<%.4f,%.4f>" % tuple(v) for v in UV), "}"]
    out += [
        "face_indices{%d," % len(F),
        ",".join("<%d,%d,%d>" % tuple(f) for f in F),
        "}",
        "uv_mapping " if UV is not None else "",
        tex,
        extra,
        "}\n",
    ]
    return "".join(out)


def grid(n, m, wrap=False):
    i, j = np.mgrid[0 : n - 1, 0 : (m if wrap else m - 1)]
    a = i * m + j
    b = i * m + (j + 1) % m
    c = a + m
    d = b + m
    return np.concatenate([np.stack([a, b, d], -1).reshape(-1, 3), np.stack([a, d, c], -1).reshape(-1, 3)])


def sheet(P, tex, smooth=True, wrap=False, extra=""):
    """P: n x m x 3 grid of points; with uv"""
    n, m = P.shape[:2]
    u, v = np.meshgrid(np.linspace(0, 1, m), np.linspace(1, 0, n))
    return mesh2(P.reshape(-1, 3), grid(n, m, wrap), tex, np.stack([u, v], -1).reshape(-1, 2), smooth, extra)


def revolve(prof, tex, n=72, fn=None, extra=""):
    """prof: list of (r,y) bottom to top; fn(theta, y) optional factor on r"""
    prof = np.asarray(prof, float)
    th = np.linspace(0, 2 * np.pi, n + 1)
    r = prof[:, 0:1] * (np.ones_like(th) if fn is None else fn(th[None, :], prof[:, 1:2]))
    return sheet(np.stack([r * np.cos(th), np.repeat(prof[:, 1:2], n + 1, 1), r * np.sin(th)], -1), tex, extra=extra)


def curve(pts, n=60):
    """smooth curve through points (Catmull-Rom)"""
    p = np.asarray(pts, float)
    p = np.vstack([2 * p[0] - p[1], p, 2 * p[-1] - p[-2]])
    k = len(p) - 3
    t = np.linspace(0, k - 1e-9, n)
    i = t.astype(int)
    f = (t - i)[:, None]
    a, b, c, d = p[i], p[i + 1], p[i + 2], p[i + 3]
    return 0.5 * (2 * b + (c - a) * f + (2 * a - 5 * b + 4 * c - d) * f**2 + (3 * b - a - 3 * c + d) * f**3)


def tube(pts, r, tex, n=10, extra=""):
    P = np.asarray(pts, float)
    r = np.broadcast_to(np.asarray(r, float), (len(P),))
    T = np.gradient(P, axis=0)
    T /= np.maximum(np.linalg.norm(T, axis=1, keepdims=True), 1e-9)
    a = np.cross(T[0], [0.3, 0.9, 0.2])
    a /= np.linalg.norm(a)
    rings = []
    th = np.linspace(0, 2 * np.pi, n + 1)
    for i in range(len(P)):
        a = a - T[i] * (a @ T[i])
        a /= max(1e-9, np.linalg.norm(a))
        b = np.cross(T[i], a)
        rings.append(P[i] + r[i] * (np.cos(th)[:, None] * a + np.sin(th)[:, None] * b))
    return sheet(np.array(rings), tex, extra=extra) + "sphere{%s,%.4f %s %s}\nsphere{%s,%.4f %s %s}\n" % (
        vec(P[0]),
        r[0],
        tex,
        extra,
        vec(P[-1]),
        r[-1],
        tex,
        extra,
    )


def rod(a, b, r, tex):
    return "cylinder{%s,%s,%.4f %s}\nsphere{%s,%.4f %s}sphere{%s,%.4f %s}\n" % (
        vec(a),
        vec(b),
        r,
        tex,
        vec(a),
        r,
        tex,
        vec(b),
        r,
        tex,
    )


def leaf(L, W, bend, curl, tex, T, nseg=9, tip=1.0):
    """a leaf from the origin along +z, bent down; T: 4x3 transform (rows x,y,z,offset)"""
    t = np.linspace(0, 1, nseg)
    w = W * np.sin(np.pi * np.clip(t, 0.02, 0.985) ** tip)
    an = bend * t
    z = L * np.cumsum(np.cos(an)) / nseg
    y = -L * np.cumsum(np.sin(an)) / nseg
    s = np.linspace(-1, 1, 5)
    P = np.stack([w[:, None] * s, y[:, None] + curl * w[:, None] * s**2, np.repeat(z[:, None], 5, 1)], -1)
    return sheet(P @ T[:3] + T[3], tex)


def frame(dirv, pos, roll=0.0):
    z = np.asarray(dirv, float)
    z = z / np.linalg.norm(z)
    x = np.cross([0, 1, 0] if abs(z[1]) < 0.95 else [1, 0, 0], z)
    x /= np.linalg.norm(x)
    y = np.cross(z, x)
    c, s = math.cos(roll), math.sin(roll)
    return np.array([x * c + y * s, y * c - x * s, z, pos])


def fur(pts, nrm, L, wid, rng, tex, droop=0.4, messy=0.5, seg=3):
    """ribbons, one per root point"""
    n = len(pts)
    d = nrm + messy * rng.normal(0, 0.5, (n, 3))
    d /= np.linalg.norm(d, axis=1, keepdims=True)
    Ls = L * rng.uniform(0.6, 1.25, n)
    side = np.cross(d, rng.normal(0, 1, (n, 3)))
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    bend = rng.normal(0, 0.35, (n, 3)) - [0, droop, 0]
    V = []
    for k in range(seg + 1):
        t = k / seg
        c = pts + d * Ls[:, None] * t + bend * (Ls[:, None] * t * t)
        w = wid * (1 - 0.8 * t)
        V += [c - side * w, c + side * w]
    V = np.stack(V, 1).reshape(-1, 3)
    m = 2 * (seg + 1)
    F = []
    for k in range(seg):
        o = 2 * k
        F += [[o, o + 1, o + 3], [o, o + 3, o + 2]]
    F = (np.arange(n)[:, None, None] * m + np.array(F)[None]).reshape(-1, 3)
    N = np.repeat(nrm * 0.8 + d * 0.3, m, 0)
    N /= np.linalg.norm(N, axis=1, keepdims=True)
    return "".join(
        [
            "mesh2{vertex_vectors{%d," % len(V),
            ",".join("<%.4f,%.4f,%.4f>" % tuple(v) for v in V),
            "}normal_vectors{%d," % len(N),
            ",".join("<%.2f,%.2f,%.2f>" % tuple(v) for v in N),
            "}face_indices{%d," % len(F),
            ",".join("<%d,%d,%d>" % tuple(f) for f in F),
            "}",
            tex,
            "}\n",
        ]
    )


def sphere_pts(n, rng):
    z = rng.uniform(-1, 1, n)
    a = rng.uniform(0, 2 * np.pi, n)
    r = np.sqrt(1 - z * z)
    return np.stack([r * np.cos(a), z, r * np.sin(a)], 1)


# ---------------------------------------------------------------- a scene being made
class Ctx:
    def __init__(c, family, seed, which, work, turn=0):
        c.rng = np.random.default_rng([zlib.crc32(family.encode()), seed])
        c.family, c.seed, c.work = family, seed, work
        c.photos = Photos(which, turn)
        c.which = which
        c.role = "S"
        c.used = []
        c.nimg = 0
        c.backmean = None
        c.W, c.H = [(900, 600), (900, 600), (900, 600), (600, 900), (1200, 800)][
            c.rng.choice(
                5,
                p=[0.28, 0.23, 0.17, 0.17, 0.15] if family == "patch" else [0.3, 0.26, 0.21, 0.2, 0.03],
            )
        ]
        if os.environ.get("DRAFT"):
            c.W, c.H = c.W // 3, c.H // 3  # quick look only

    def u(c, a, b):
        return float(c.rng.uniform(a, b))

    def chance(c, p):
        return c.rng.random() < p

    def pick(c, *a):
        return a[c.rng.integers(len(a))]

    def col(c, lo=0.05, hi=0.75, sat=None):
        if c.near and c.chance(0.6):
            return np.clip(c.backmean * c.rng.uniform(0.75, 1.3) * c.rng.uniform(0.9, 1.1, 3), 0.01, 0.9)
        return rand_col(c.rng, lo, hi, sat)

    def tex(c, pig, fin="", nor="", t=0.0):
        m = ("<1,1,1,0,%.3f>" if c.role == "S" else "<0,0,0,0,%.3f>") % t
        return (
            "#if(MATTE) texture{pigment{rgbft %s}finish{emission 1 ambient 0 diffuse 0}} #else texture{pigment{%s} finish{ambient 1 diffuse .8 %s} %s} #end "
            % (m, pig, fin, "normal{%s}" % nor if nor else "")
        )

    def rgb(c, v):
        return "rgb <%.4f,%.4f,%.4f>" % tuple(v)

    def image(c, role="texture", zoom=(1, 3)):
        """an image_map of real texture"""
        e, im = c.photos.pick(c.rng, role)
        c.used.append(e["id"])
        im = crop_to(im, 384, 384, c.rng, zoom)
        f = os.path.join(c.work, "tex%d.png" % c.nimg)
        c.nimg += 1
        g = rand_col(c.rng, 0.5, 1.0, c.rng.random() * 0.5) if c.chance(0.5) else np.ones(3)
        im = np.clip(im * (g / g.max()) ** 0.45, 0, 1)
        cv2.imwrite(f, q8(im)[:, :, ::-1])
        return 'image_map{png "%s" gamma srgb interpolate 2}' % f

    def mat(c, kinds=None, col=None, uv=True):
        k = c.pick(
            *(kinds or ["matte", "gloss", "gloss", "metal", "wood", "marble", "spots", "stripes", "photo", "mottle"])
        )
        a = c.col() if col is None else np.asarray(col)
        b = c.col()
        g = lambda v: c.rgb(v)
        fin = c.pick("", "specular .3 roughness .05", "phong .2 phong_size 20")
        nor = c.pick(
            "",
            "",
            "bumps %.2f scale %.3f" % (c.u(0.1, 0.5), c.u(0.01, 0.06)),
            "granite %.2f scale %.2f" % (c.u(0.05, 0.3), c.u(0.1, 0.5)),
        )
        if k == "gloss":
            return c.tex(
                g(a),
                "specular .7 roughness .008 reflection{%.2f,%.2f fresnel off}" % (c.u(0.02, 0.08), c.u(0.15, 0.45)),
            )
        if k == "metal":
            a = np.clip(a * 0.5 + 0.35, 0, 0.9) if c.chance(0.5) else a
            return c.tex(
                g(a * 0.35),
                "specular .8 roughness .01 metallic reflection{rgb <%.3f,%.3f,%.3f> metallic}"
                % tuple(np.clip(a * 0.9 + 0.1, 0, 1) * c.u(0.35, 0.8)),
            )
        if k == "wood":
            return c.tex(
                "wood turbulence .06 color_map{[0 %s][.5 %s][.8 %s][1 %s]} scale %.3f rotate <%.0f,%.0f,0>"
                % (g(a), g(a * 0.55), g(a * 0.85), g(a), c.u(0.04, 0.15), c.u(-8, 8) + 90 * c.pick(0, 1), c.u(-20, 20)),
                fin,
            )
        if k == "marble":
            return c.tex(
                "marble turbulence .7 color_map{[0 %s][.6 %s][1 %s]} scale %.2f"
                % (g(a), g(a * 0.6 + b * 0.4), g(b), c.u(0.1, 0.6)),
                "specular .4 roughness .02 reflection .05",
            )
        if k == "spots":
            return c.tex(
                "bozo color_map{[%.2f %s][%.2f %s]} scale %.2f"
                % ((q := c.u(0.35, 0.6)), g(a), q + c.u(0.02, 0.2), g(b), c.u(0.05, 0.4)),
                fin,
                nor,
            )
        if k == "stripes":
            return c.tex(
                "gradient %s color_map{[.5 %s][%.2f %s]%s} scale %.3f"
                % (
                    c.pick("y", "y", "x", "<1,1,0>"),
                    g(a),
                    c.u(0.5, 0.56),
                    g(b),
                    "[.9 %s][.93 %s]" % (g(b), g(c.col())) if c.chance(0.5) else "",
                    c.u(0.08, 0.5),
                ),
                fin,
                nor,
            )
        if k == "photo" and uv:
            return c.tex(c.image(), fin, nor)
        if k == "mottle":
            return c.tex(
                "granite turbulence .3 color_map{[0 %s][1 %s]} scale %.2f"
                % (g(a), g(a * c.u(0.4, 0.8)), c.u(0.3, 1.5)),
                fin,
                nor,
            )
        return c.tex(g(a), fin, nor)


HEAD = "#version 3.7;\n#ifndef(MATTE)#declare MATTE=0;#end #ifndef(SHADOW)#declare SHADOW=0;#end\n"


def povray(c, text, name, w, h, decl=(), ua=True):
    f = os.path.join(c.work, name + ".pov")
    open(f, "w").write(text)
    o = os.path.join(c.work, name + ".png")
    cmd = (
        ["povray", f, "+W%d" % w, "+H%d" % h, "+WT1", "+FN16", "+O" + o, "-D", "-V", "-A", "File_Gamma=1.0", "-GA"]
        + (["+UA"] if ua else [])
        + ["Declare=%s" % d for d in decl]
    )
    if shutil.which("nice"):
        cmd = ["nice", "-n", "15"] + cmd
    t0 = time.time()
    r = subprocess.run(cmd, cwd=c.work, stdout=subprocess.PIPE, stderr=subprocess.STDOUT)
    if r.returncode:
        print(r.stdout.decode(errors="replace")[-1800:])
        raise RuntimeError("povray " + f)
    if os.environ.get("TIMES"):
        print("     %-8s %5.1f s, %.1f MB" % (name, time.time() - t0, len(text) / 1e6), flush=True)
    a = cv2.imread(o, cv2.IMREAD_UNCHANGED).astype(np.float32) / 65535.0
    os.remove(o)
    if a.ndim == 2:
        a = np.repeat(a[..., None], 3, 2)
    return a[:, :, [2, 1, 0, 3]] if a.shape[2] == 4 else a[:, :, ::-1]


def area(a, k):
    return cv2.resize(a, (a.shape[1] // k, a.shape[0] // k), interpolation=cv2.INTER_AREA)


def backdrop(c, kind, blurs=(0, 9)):
    w, h = c.W, c.H
    c.place = kind
    if kind == "photo":
        e, im = c.photos.pick(c.rng, "scene")
        c.used.append(e["id"])
        b = to_lin(crop_to(im, w, h, c.rng, (1.0, 1.35))) * c.u(0.8, 1.2)
        return np.clip(blur(b, max(c.u(*blurs), 0.5) * w / 900), 0, 1)
    if kind == "surface":  # flat real texture, seen from straight on
        e, im = c.photos.pick(c.rng, "texture")
        c.used.append(e["id"])
        b = to_lin(crop_to(im, w, h, c.rng, (1, 1.6)))
        return np.clip(blur(b, c.u(0.3, 2.5)) * c.u(0.8, 1.15), 0, 1)
    return dict(plain=plain, mottled=mottled, pattern=pattern, bokeh=bokeh)[kind](c.rng, w, h)


def floor_texture(c):
    k = c.pick("real", "real", "real", "plain", "pattern", "mottled")
    if k == "real":
        e, im = c.photos.pick(c.rng, "texture")
        c.used.append(e["id"])
        t = to_lin(crop_to(im, 900, 900, c.rng, (1, 1.3)))
    else:
        t = dict(plain=plain, pattern=pattern, mottled=mottled)[k](c.rng, 900, 900)
    return t, k


def compose(c, spec):
    """spec: subject (pov text), others (list of (pov text, label)), ground (bool), view(dist, elev, fov), size (frac), hint names"""
    W, H, rng = c.W, c.H, c.rng
    bd = spec["backdrop_kind"]
    B = spec["B"]
    others = spec.get("others", [])
    ground = spec.get("ground", True)
    az, el, dist, at = spec["az"], spec["el"], spec["dist"], np.array(spec["at"], float)
    loc = at + dist * np.array([math.sin(az) * math.cos(el), math.sin(el), -math.cos(az) * math.cos(el)])
    cam = Cam(loc, at, W, H, spec.get("fov", 60))
    # light
    laz = az + float(os.environ.get("SIDE", 1)) * c.pick(-1, 1) * c.u(0.3, 1.5)
    c.side = laz - az  # of the light: negative is left
    lel = c.u(0.45, 1.25)
    ld = np.array([math.sin(laz) * math.cos(lel), math.sin(lel), -math.cos(laz) * math.cos(lel)])
    soft = c.pick(0, 0, 0, 0.2, 0.4, 0.9)
    m = B.reshape(-1, 3).mean(0)
    tint = m / max(0.02, m.max())
    lum = float(np.clip(m.mean() * 3.2, 0.35, 1.15))
    warm = np.array([1, c.u(0.86, 1), c.u(0.7, 1)]) if c.chance(0.6) else np.array([c.u(0.85, 1), c.u(0.93, 1), 1])
    amb = np.clip(tint * 0.16 * lum, 0.02, 0.3)
    key = warm * lum * c.u(0.75, 1.15)
    lp = at + ld * 60
    area_l = (
        "area_light <%.2f,0,%.2f>,<0,%.2f,0>,3,3 adaptive 0 jitter"
        % (60 * soft * math.cos(laz), 60 * soft * math.sin(laz), 60 * soft)
        if soft
        else ""
    )
    env = os.path.join(c.work, "env.png")
    cv2.imwrite(env, q8(to_srgb(cv2.resize(blur(B, 3), (512, 256))))[:, :, ::-1])
    lights = """global_settings{assumed_gamma 1 max_trace_level 8 ambient_light rgb <%.3f,%.3f,%.3f>}
#if(!MATTE) light_source{%s rgb <%.3f,%.3f,%.3f> %s} #if(!SHADOW) light_source{%s rgb <%.3f,%.3f,%.3f> shadowless} light_source{%s rgb <%.3f,%.3f,%.3f> shadowless}
sphere{0,900 hollow no_image no_shadow texture{pigment{image_map{png "%s" gamma srgb map_type 1}} finish{emission 1 ambient 0 diffuse 0}} rotate y*%d} #end #end\n""" % (
        *amb,
        vec(lp),
        *key,
        area_l,
        vec(at + [0, 80, 0]),
        *(tint * 0.22 * lum),
        vec(loc + [2 * math.cos(az), 1.5, 2 * math.sin(az)]),
        *(tint * 0.13 * lum),
        env,
        rng.integers(360),
    )
    body = "union{%s #if(SHADOW) no_image #end}\n" % spec["subject"]
    oth = "".join("union{%s #if(SHADOW) no_image #end}\n" % o[0] for o in others)
    # find the subject, then frame it
    small = povray(
        c,
        HEAD + lights + cam.pov() + body,
        "find",
        150 * (W if W > H else H) // max(W, H),
        150 * H // W if W > H else int(150 * H / W),
        ["MATTE=1"],
    )
    a = small[..., 3] > 0.3
    ys, xs = np.nonzero(a)
    sh, sw = a.shape
    if len(xs) < 20:
        raise RuntimeError("subject not seen")
    bx = np.array([xs.min() / sw, ys.min() / sh, (xs.max() + 1) / sw, (ys.max() + 1) / sh])
    fill = len(xs) / float(sw * sh)
    bw, bh = bx[2] - bx[0], bx[3] - bx[1]
    want = spec.get("size") or math.exp(c.u(math.log(0.05), math.log(0.55)))  # share of the picture
    close = c.seed % 5 == 0  # every fifth seed is a close-up
    if close:
        want = max(want, 0.4 + 0.03 * ((c.seed // 5 * 7 + len(c.family)) % 6))
        spec["maxext"] = 1.3
    k = math.sqrt(fill / want)
    k = max(k, max(bw, bh) / spec.get("maxext", c.u(0.75, 1.0)))  # window size in units of the wide picture
    cx, cy = (bx[0] + bx[2]) / 2, (bx[1] + bx[3]) / 2
    mx = (k - bw) / 2
    my = (k - bh) / 2
    touch = c.chance(0.15) and not spec.get("notouch")
    ox = c.u(-0.85, 0.85) * mx
    oy = c.u(-0.7, 0.7) * my
    if ground and not touch:
        oy = -abs(oy) * 0.8 if c.chance(0.75) else oy * 0.3  # stands in the lower half (window moves up)
    if touch:
        if c.chance(0.55):
            ox = c.pick(-1, 1) * (mx + c.u(0.04, 0.2) * bw)
        else:
            oy = -(my + c.u(0.03, 0.18) * bh)
    cam.window(cx + ox - k / 2, cy + oy - k / 2, cx + ox + k / 2, cy + oy + k / 2)
    scene = HEAD + lights + cam.pov() + body + oth
    C = povray(c, scene, "beauty", 2 * W, 2 * H)
    A = C[..., 3]
    P = C[..., :3] * A[..., None]
    P, A = area(P, 2), area(A, 2)
    masks = []
    if others:
        M = area(np.ascontiguousarray(povray(c, scene, "matte", 2 * W, 2 * H, ["MATTE=1"], ua=False)[..., 0]), 2)
        ids = "".join("union{%s}\n" % re.sub(r"<0,0,0,0,", "<1,1,1,0,", o[0]) for o in others)
        masks = [np.clip(A - M, 0, 1)]
    else:
        M = A.copy()
    soft_s = spec.get("defocus", c.pick(0.45, 0.5, 0.55, 0.7, 1.0, 1.35)) * W / 900
    P, A, M = (cv2.GaussianBlur(x, (0, 0), soft_s) for x in (P, A, M))
    A, M = np.clip(A, 0, 1), np.clip(M, 0, 1)
    # ground
    if ground:
        gx, gz, gt = cam.ground()
        if spec.get("table", False):
            t, tk = floor_texture(c)
            sc = spec["radius"] * c.u(2.2, 5)
            zed = spec["radius"] * c.u(1.3, 4)
            rx, rz = math.cos(az), math.sin(az)
            lx = (gx - at[0]) * rx + (gz - at[2]) * rz
            lz = -(gx - at[0]) * rz + (gz - at[2]) * rx  # in view direction
            on = np.nan_to_num(np.clip((zed - lz) / (spec["radius"] * 0.02), 0, 1), nan=0.0) * np.isfinite(gt)
            mp = lambda v: (np.abs(((np.nan_to_num(v, nan=0.0, posinf=0, neginf=0) / sc + 0.37) % 2) - 1) * 898).astype(
                np.float32
            )
            # 4 samples per pixel would be better: a mild low pass instead
            pix = sc / 900.0
            foot = np.nan_to_num(gt, nan=1e3) * np.linalg.norm(cam.R) / W / pix
            fl = cv2.remap(t, mp(lx), mp(lz), cv2.INTER_LINEAR)
            fl2 = cv2.remap(blur(t, 2.5), mp(lx), mp(lz), cv2.INTER_LINEAR)
            fl3 = cv2.remap(blur(t, 8), mp(lx), mp(lz), cv2.INTER_LINEAR)
            dz = np.clip(np.abs(np.nan_to_num(lz, nan=50)) / spec["radius"] - 0.6, 0, 3) * spec.get("dof", c.u(0, 1.2))
            f = np.clip(np.maximum(foot - 1, 0) * 0.5 + dz, 0, 2)[..., None]
            fl = np.where(f < 1, fl * (1 - f) + fl2 * f, fl2 * (2 - f) + fl3 * (f - 1))
            fl *= 0.55 + 0.5 * lum
            on = cv2.GaussianBlur(on.astype(np.float32), (0, 0), c.u(0.6, 3.5) * W / 900)[..., None]
            B = B * (1 - on) + fl.astype(np.float32) * on
        nl = max(0.2, ld[1])
        sh = povray(
            c,
            HEAD
            + "#declare SHADOW=1;\n"
            + lights.replace("<%.3f,%.3f,%.3f> %s}" % (*key, area_l), "<1,1,1> %s}" % area_l)
            + cam.pov()
            + body
            + oth
            + "plane{y,0 texture{pigment{rgb 1}finish{ambient 0 diffuse %.4f}}} background{rgb 1}\n" % (0.8 / nl),
            "shadow",
            W // 2,
            H // 2,
            ua=False,
        )[..., 0]
        gx2, gz2 = np.nan_to_num(gx, nan=0.0), np.nan_to_num(gz, nan=0.0)
        full = (
            0.8 / nl * lp[1] / np.sqrt((lp[0] - gx2) ** 2 + lp[1] ** 2 + (lp[2] - gz2) ** 2)
        )  # light on the bare ground
        sh = np.clip(cv2.resize(sh, (W, H), interpolation=cv2.INTER_LINEAR) / full, 0, 1)
        sh = 1 - (1 - sh) * np.exp(-((gx2 - at[0]) ** 2 + (gz2 - at[2]) ** 2) / (5 * spec["radius"]) ** 2)
        sh = cv2.GaussianBlur(np.where(np.isfinite(gt), sh, 1).astype(np.float32), (0, 0), (1.5 + 5 * soft) * W / 900)
        amt = c.u(0.45, 0.85)
        B = B * (1 - amt * (1 - sh))[..., None]
    spec["cam"] = cam
    c.layers = (P * spec.get("gain", 1.0), A, M, B)
    return P * spec.get("gain", 1.0) + (1 - A)[..., None] * B, M, masks


# ---------------------------------------------------------------- finishing: grain, JPEG, hints
def finish(c, out, lin, alpha, others, kind, difficulty, note=""):
    rng = c.rng
    W, H = c.W, c.H
    a8 = q8(alpha)
    if c.chance(0.6):
        yy, xx = np.mgrid[0:H, 0:W]
        r2 = ((xx - W / 2.0) ** 2 + (yy - H / 2.0) ** 2) / (W * W / 4.0 + H * H / 4.0)
        lin = lin * (1 - c.u(0.03, 0.25) * r2 * r2 - 0.05 * r2)[..., None]
    lv = np.percentile(lin, 98)
    lin = lin * (1.0 if 0.45 < lv < 1 else (0.6 / max(lv, 0.02) if lv <= 0.45 else 0.97 / lv) ** 0.8)
    fw = math.exp(c.u(math.log(1200), math.log(12000)))
    read = c.u(0.0008, 0.004)
    lin = np.clip(lin, 0, 1)
    n = rng.poisson(lin.astype(np.float64) * fw) / fw - lin + rng.normal(0, read, lin.shape)
    n = cv2.GaussianBlur(n.astype(np.float32), (5, 5), 0.5) * 1.35
    photo = q8(to_srgb(lin + n))
    quality = int(rng.integers(80, 96))
    fg = a8 > 127
    if fg.mean() < 0.006:
        raise RuntimeError("subject too small %.4f" % fg.mean())
    if (a8 >= 251).sum() < 400:
        raise RuntimeError("hardly any opaque part")
    os.makedirs(out, exist_ok=True)
    cv2.imwrite(os.path.join(out, "photo.jpg"), photo[:, :, ::-1], [cv2.IMWRITE_JPEG_QUALITY, quality])
    cv2.imwrite(os.path.join(out, "alpha.png"), a8, [cv2.IMWRITE_PNG_COMPRESSION, 9])
    r = 12 if kind in ("hair", "veil") else 6
    part = ((a8 > 0) & (a8 < 255)).astype(np.uint8)
    unk = cv2.dilate(part, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * r + 1, 2 * r + 1))) > 0
    cv2.imwrite(
        os.path.join(out, "trimap.png"),
        np.where(unk, 128, np.where(a8 >= 128, 255, 0)).astype(np.uint8),
        [cv2.IMWRITE_PNG_COMPRESSION, 9],
    )
    ys, xs = np.nonzero(a8 > 12)
    bb = [int(xs.min()), int(ys.min()), int(xs.max()) + 1, int(ys.max()) + 1]
    bw, bh = bb[2] - bb[0], bb[3] - bb[1]
    e = rng.uniform(0.03, 0.15, 4)
    rb = [
        max(0, int(bb[0] - e[0] * bw)),
        max(0, int(bb[1] - e[1] * bh)),
        min(W, int(bb[2] + e[2] * bw)),
        min(H, int(bb[3] + e[3] * bh)),
    ]
    ok_in, ok_out = (a8 >= 251), (a8 <= 4)
    pad = lambda m: cv2.distanceTransform(np.pad(m.astype(np.uint8), 1, constant_values=1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    edge = np.zeros((H, W), bool)
    edge[6:-6, 6:-6] = True

    def spread(dt, n, lo, hi, start):
        """n points with dt in lo..hi, each the best of a few random ones: far from those already there, but carelessly so"""
        m = (dt >= lo) & (dt <= hi) & edge
        yy, xx = np.nonzero(m)
        pts = list(start)
        for _ in range(n):
            if not len(xs) or not len(xx):
                break
            i = rng.integers(len(xx), size=12)
            d = [min([(xx[j] - p[0]) ** 2 + (yy[j] - p[1]) ** 2 for p in pts] or [1]) for j in i]
            j = i[int(np.argmax(d))]
            q = [int(xx[j]), int(yy[j])]
            if min([(q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2 for p in pts] or [1e9]) >= 100:
                pts.append(q)
        return pts

    di, do = pad(ok_in), pad(ok_out)
    mi = float((di * edge).max())
    nin, nout = int(rng.integers(3, 6)), int(rng.integers(4, 8))
    inside = spread(di, 1, 0.6 * mi, 1e9, [])
    inside = spread(di, nin - 2, min(7.0, 0.45 * mi), 1e9, inside)
    inside = spread(di, 1, min(7.0, 0.4 * mi), max(12.0, 0.6 * mi), inside)
    for _ in range(20):
        if len(inside) >= 3:
            break
        inside = spread(di, 3 - len(inside), min(3.0, 0.3 * mi), 1e9, inside)
    outside = []
    for o in others:  # one on each look-alike or occluder (connected parts)
        nn, lab, st, _ = cv2.connectedComponentsWithStats(((o > 0.95) & ok_out & edge).astype(np.uint8))
        for i in sorted(range(1, nn), key=lambda i: -st[i, 4])[:3]:
            if st[i, 4] < 500:
                continue
            d = pad(lab == i)
            outside = spread(d, 1, 0.5 * d.max(), 1e9, outside)
    outside = spread(do, 1, 12, 28, outside)
    outside = spread(do, max(0, nout - len(outside) - 1), 12, 1e9, outside)
    outside = spread(do, 1, 12, 60, outside)
    if len(outside) < 4:
        outside = spread(do, 4 - len(outside), 6, 1e9, outside)
    outside = outside[:7]
    for x, y in inside:
        assert a8[y, x] > 0.98 * 255, ("inside", x, y, a8[y, x])
    for x, y in outside:
        assert a8[y, x] < 0.02 * 255, ("outside", x, y, a8[y, x])
    assert len(inside) >= 3 and len(outside) >= 4, (len(inside), len(outside))
    hints = dict(inside=inside, outside=outside, roughBox=rb, trimapUnknownRadius=r)
    cs = sorted(
        cv2.findContours(fg.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)[0],
        key=cv2.contourArea,
        reverse=True,
    )
    tot = sum(map(cv2.contourArea, cs))
    big = cs[0]
    per = cv2.arcLength(big, True)
    full = np.zeros((H, W), np.uint8)
    cv2.drawContours(full, [big], -1, 1, -1)
    if (
        cv2.contourArea(big) > 0.985 * tot
        and (full > 0).sum() < 1.1 * fg.sum()
        and per < 14 * math.sqrt(cv2.contourArea(big))
        and kind not in ("hair", "veil")
    ):
        L = np.concatenate(
            [[0], np.cumsum(np.linalg.norm(np.diff(np.vstack([big[:, 0], big[:1, 0]]), axis=0), axis=1))]
        )
        t = rng.random() * 0.05
        pos = []
        while t < 0.97:
            pos.append(t)
            t += rng.uniform(0.08, 0.12)
        i = np.searchsorted(L, np.array(pos) * L[-1]).clip(0, len(big) - 1)
        hints["anchors"] = [[float(min(x + 0.5, W - 0.5)), float(min(y + 0.5, H - 0.5))] for x, y in big[i, 0]]
    meta = dict(
        name=os.path.basename(out),
        kind=kind,
        family=c.family,
        seed=c.seed,
        width=W,
        height=H,
        subject=bb,
        share=round(float(fg.mean()), 4),
        hints=hints,
        difficulty=difficulty,
        place=c.place,
        backdrops=c.used,
        jpegQuality=quality,
        set=c.which,
        alphaBlend="linear light: photo = sRGB(alpha*F + (1-alpha)*B) with F, B linear, before vignette, grain and JPEG"
        + note,
    )
    json.dump(meta, open(os.path.join(out, "meta.json"), "w"), indent=1)
    return meta
