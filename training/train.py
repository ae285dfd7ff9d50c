#!/usr/bin/python3
"""Trains the cue that says how probably a pixel belongs to the thing that is meant. See README.md.
usage: train.py LAYERS OUT.pt [--without FAMILY,...] [--minutes N] [--from OLD.pt|weights.ts] [--rate 3e-3] [--photographs FOLDER] [--ask anchors]
FOLDER: what photographs.py made: half of the other places things are put before, and one view in eight of main things in photographs.
--ask anchors: only what lies within anchors is asked for, for weights of their own.
Convolutions are computed with numbers of 16 bits where the processor multiplies matrices of those (two to three times as quick).
"""
import glob, os, sys, time
import numpy as np, cv2, torch, torch.nn as nn, torch.nn.functional as F
import export

cv2.setNumThreads(1)
arg = lambda k, d: sys.argv[sys.argv.index(k) + 1] if k in sys.argv else d
BUCKETS = [(176, 176), (144, 208), (208, 144), (160, 192), (192, 160)]
# What is asked: the subject, the thing in a box or at marks, that on whose outline anchors lie, coverage where a trimap does not know, the same along
# the outline of a cut that is wrong in places.
MODES = ["none", "box", "marks", "anchors", "trimap", "cut"]
OFTEN = [0.17, 0.22, 0.40, 0, 0.09, 0.12]
ASK = arg("--ask", None)
SIGMA = 4.0  # of a mark's bump, px of what the net sees


# ------------------------------------------------------------------ the net
def block(a, b, stride=1, k=3):
    return nn.Sequential(nn.Conv2d(a, b, k, stride, k // 2, bias=False), nn.BatchNorm2d(b))


class Residual(nn.Module):
    def __init__(s, n):
        super().__init__()
        s.a, s.b = block(n, n), block(n, n)

    def forward(s, x):
        return F.relu(x + s.b(F.relu(s.a(x))))


class Net(nn.Module):
    def __init__(s, C=(24, 48, 96, 128)):
        super().__init__()
        a, b, c, d = C
        s.stem, s.r1 = block(6, a, 2), Residual(a)
        s.d2, s.r2 = block(a, b, 2), Residual(b)
        s.d3, s.r3 = block(b, c, 2), Residual(c)
        s.d4, s.r4, s.r5 = block(c, d, 2), Residual(d), Residual(d)
        s.context = nn.Linear(d, d)
        s.r6, s.r7 = Residual(d), Residual(d)
        s.u3, s.q3, s.q4 = block(d, c, 1, 1), Residual(c), Residual(c)
        s.u2, s.q2 = block(c, b, 1, 1), Residual(b)
        s.u1, s.q1 = block(b, a, 1, 1), Residual(a)
        s.out = nn.Conv2d(a, 8, 3, 1, 1)  # the thing, its outline

    def forward(s, x):
        up = lambda t: F.interpolate(t, scale_factor=2, mode="nearest")
        e1 = s.r1(F.relu(s.stem(x)))
        e2 = s.r2(F.relu(s.d2(e1)))
        e3 = s.r3(F.relu(s.d3(e2)))
        e4 = s.r4(F.relu(s.d4(e3)))
        e4 = F.relu(e4 + s.context(e4.mean((2, 3)))[..., None, None])
        e4 = s.r7(s.r6(s.r5(e4)))
        t = s.q4(s.q3(F.relu(e3 + up(s.u3(e4)))))
        t = s.q2(F.relu(e2 + up(s.u2(t))))
        t = s.q1(F.relu(e1 + up(s.u1(t))))
        return F.pixel_shuffle(s.out(t), 2)


# ------------------------------------------------------------------ what it is shown
def srgb(l):
    return np.where(l <= 0.0031308, l * 12.92, 1.055 * np.power(np.maximum(l, 1e-9), 1 / 2.4) - 0.055)


def linear(v):
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4).astype(np.float32)


def bumps(points, h, w):
    out = np.zeros((h, w), np.float32)
    for x, y in points:
        a, b, c, d = [max(0, int(v)) for v in (y - 5 * SIGMA, y + 5 * SIGMA + 2, x - 5 * SIGMA, x + 5 * SIGMA + 2)]
        part = out[a:b, c:d]
        if part.size:
            across, down = np.arange(c, c + part.shape[1]) - x, np.arange(a, a + part.shape[0]) - y
            np.maximum(part, np.exp(-(across[None] ** 2 + down[:, None] ** 2) / (2 * SIGMA**2)), out=part)
    return out


def stroke(rng, m):
    """Places along a stroke as a hand draws it: slightly bent, on m from end to end; shorter where m leaves no room."""
    ys, xs = np.nonzero(m)
    for reach in (1, 1, 0.7, 0.7, 0.5, 0.5, 0.3, 0.3, 0.15):
        i, j = rng.integers(len(xs), size=2)
        a = np.array([xs[i], ys[i]], np.float64)
        b = a + reach * (np.array([xs[j], ys[j]]) - a)
        n = max(2, int(np.hypot(*(b - a)) / 2))
        k = np.linspace(0, 1, n)[:, None]
        bend = rng.normal(0, 0.12, 2) * np.hypot(*(b - a))
        line = a + k * (b - a) + 4 * k * (1 - k) * bend
        x, y = np.int32(np.round(line)).T
        if (x >= 0).all() and (y >= 0).all() and (x < m.shape[1]).all() and (y < m.shape[0]).all() and m[y, x].mean() > 0.97:
            return [tuple(p) for p in line]
    return [tuple(a)]


def of_parts(rng, P):
    """A thing whose parts have colours of their own, as clothes do."""
    h, w = P.shape[:2]
    field = cv2.resize(rng.normal(size=(int(rng.integers(2, 6)), int(rng.integers(2, 6)))).astype(np.float32), (w, h), interpolation=cv2.INTER_CUBIC)
    part = (field > np.quantile(field, rng.uniform(0.3, 0.7)))[..., None]
    return np.where(part, np.clip(P * np.exp(rng.normal(0, 0.5)) * np.exp(rng.normal(0, 0.3, 3)), 0, 1), P).astype(np.float32)


def shadow(rng, A):
    """How much of its light a thing takes from what lies behind it, 0-1: to one side of it, or along the ground as a low sun throws it; soft or hard."""
    h, w = A.shape
    foot = np.nonzero(A.max(1) > 0.5)[0].max(initial=0)
    slant, length = (rng.normal(0, 0.5), rng.uniform(0.3, 1)) if rng.random() < 0.4 else (0, 1)
    x, y = rng.normal(0, 0.03) * w, rng.uniform(0, 0.06) * h
    cast = np.float32([[1, -slant, slant * foot + x], [0, length, foot * (1 - length) + y]])
    return rng.uniform(0.1, 0.6) * cv2.GaussianBlur(cv2.warpAffine(A, cast, (w, h)), (0, 0), rng.uniform(0.7, 12))


def studio(rng, A):
    """Plain paper behind a thing, mostly white, lit a little unevenly, mostly with the thing's shadow on it."""
    h, w = A.shape
    level = rng.uniform(0.75, 1.1) if rng.random() < 0.6 else rng.uniform(0.03, 0.9)
    yy, xx = np.mgrid[0:h, 0:w] / max(h, w) - 0.5
    way = rng.uniform(0, 2 * np.pi)
    light = level * (1 + rng.normal(0, 0.15) * (np.cos(way) * xx + np.sin(way) * yy))
    if rng.random() < 0.6:
        light = light * (1 - shadow(rng, A))
    return (np.clip(light, 0, 1)[..., None] * (1 + rng.normal(0, 0.05, 3))).astype(np.float32)


def far_off(rng, *planes):
    """The same, a twentieth to a third as large, somewhere in the picture."""
    h, w = planes[0].shape[:2]
    k = np.exp(rng.uniform(np.log(0.05), np.log(0.33)))
    a, b = max(3, round(h * k)), max(3, round(w * k))
    y, x = rng.integers(h - a + 1), rng.integers(w - b + 1)
    for plane in planes:
        out = np.zeros_like(plane)
        out[y : y + a, x : x + b] = cv2.resize(plane, (b, a), interpolation=cv2.INTER_AREA).reshape(a, b, *plane.shape[2:])
        yield out


def outline(t):
    """The pixels on either side of where coverage crosses a half."""
    m, cross = (t > 0.5).astype(np.uint8), np.array([[0, 1, 0], [1, 1, 1], [0, 1, 0]], np.uint8)
    return cv2.dilate(m, cross) - cv2.erode(m, cross)


def cut_by_colours(rng, im, t):
    """A cut as colours lead it astray: pieces of one colour along its outline are lost or taken along."""
    cut = (t > 0.5).astype(np.uint8)
    seen = cv2.GaussianBlur(im, (0, 0), rng.uniform(0.7, 2)).reshape(-1, 3).astype(np.float32)
    k = int(rng.integers(3, 9))
    middles = seen[rng.integers(len(seen), size=k)]
    kind = ((seen[:, None] - middles[None]) ** 2).sum(2).argmin(1).reshape(cut.shape)
    for _ in range(int(rng.integers(1, 5))):
        near = cv2.dilate(outline(cut), np.ones((3, 3), np.uint8)) > 0
        ys, xs = np.nonzero(near)
        if not len(xs):
            break
        i = rng.integers(len(xs))
        side = cut[ys[i], xs[i]]
        reach = rng.uniform(6, 40)
        part = ((kind == kind[ys[i], xs[i]]) & (cut == side)).astype(np.uint8)
        yy, xx = np.mgrid[0 : cut.shape[0], 0 : cut.shape[1]]
        part &= ((xx - xs[i]) ** 2 + (yy - ys[i]) ** 2 < reach**2).astype(np.uint8)
        _, lab = cv2.connectedComponents(part)
        flip = lab == lab[ys[i], xs[i]]
        if side and flip.sum() > 0.4 * cut.sum():
            continue
        cut = np.where(flip, 1 - side, cut).astype(np.uint8)
    return cut


def along(cut, reach):
    """What is kept and what is dropped farther than so many px from the outline of a cut."""
    away = cv2.distanceTransform(1 - outline(cut), cv2.DIST_L2, 5)
    return ((cut > 0) & (away > reach)).astype(np.float32), ((cut == 0) & (away > reach)).astype(np.float32)


def one_piece(target):
    """The largest piece of a thing."""
    k, lab, st, _ = cv2.connectedComponentsWithStats((target > 127).astype(np.uint8))
    largest = 1 + int(np.argmax(st[1:, 4]))
    return target * cv2.dilate((lab == largest).astype(np.uint8), np.ones((3, 3), np.uint8))


def slit(rng, m):
    """0 where a slit or a notch leads into a thing from its outer outline, else 1: gaps that a hurried hand leaves out."""
    lines, _ = cv2.findContours(m.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = max(lines, key=cv2.contourArea)[:, 0].astype(np.float64)
    out, size = np.ones(m.shape, np.float32), np.sqrt(m.sum())
    for _ in range(int(rng.integers(1, 4))):
        at, to = line[rng.integers(len(line))], line[rng.integers(len(line))]
        way = (to - at) / (np.hypot(*(to - at)) + 1e-6)
        end = at + way * min(0.8 * np.hypot(*(to - at)), rng.uniform(0.2, 1) * size)
        start, across = at - 0.1 * size * way, np.array([-way[1], way[0]]) * size * rng.uniform(0.02, 0.12)
        narrow = across * rng.choice([1, 1, rng.uniform(0, 1)])
        cv2.fillPoly(out, [np.int32(np.round([start - across, end - narrow, end + narrow, start + across]))], 0)
    return cv2.GaussianBlur(out, (0, 0), 0.6)


def anchors_on(rng, m):
    """Places on a thing's outer outline as a hand sets them, one after the other round it, px: 5 to 30, seldom quite on it; a hurried one leaves gaps and slits out."""
    lines, _ = cv2.findContours(m.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = max(lines, key=cv2.contourArea)[:, 0]
    at, step = [rng.uniform(0, 0.05)], 1 / rng.uniform(5, 14) if rng.random() < 0.8 else 1 / rng.uniform(14, 30)
    while at[-1] < 0.97:
        at.append(at[-1] + step * rng.uniform(0.7, 1.3))
    places = line[(np.array(at[:-1]) * len(line)).astype(int) % len(line)].astype(np.float64)
    if rng.random() < 0.5:
        hull, near = cv2.convexHull(line), 0.03 * np.hypot(*np.ptp(line, axis=0))
        outer = np.array([cv2.pointPolygonTest(hull, p, True) < near for p in places])
        places = places[outer | (rng.random(len(places)) < rng.choice([0, 0.4]))]
    if len(places) < 3:
        raise ValueError
    return places + 0.5 + rng.normal(0, rng.choice([0, 0.3, 1]), places.shape)


def bounds(m):
    ys, xs = np.nonzero(m)
    return xs.min(), ys.min(), xs.max() + 1, ys.max() + 1


class Scenes(torch.utils.data.IterableDataset):
    def __init__(s, folder, without, batch, photographs):
        s.folder, s.without, s.batch = folder, without, batch
        kept = [dict(np.load(f)) for f in sorted(glob.glob(photographs + "/*.npz"))] if photographs else []
        s.places, s.mains = [z["V"] for z in kept if "S" not in z], [z for z in kept if "S" in z]

    def __iter__(s):
        rng = np.random.default_rng(int(time.time() * 1e6) % 2**31 + os.getpid())
        cache = {}
        files = []
        n = 0
        while True:
            if n % 200 == 0:
                files = [
                    f
                    for f in sorted(glob.glob(s.folder + "/*.npz"))
                    if os.path.basename(f).split("-")[0] not in s.without
                ]
            n += 1
            h, w = BUCKETS[rng.integers(len(BUCKETS))]
            xs, ts, ms = [], [], []
            while len(xs) < s.batch:
                try:
                    x, t, m = s.sample(rng, files, cache, h, w)
                except (ValueError, IndexError, EOFError, OSError):
                    continue
                xs.append(x)
                ts.append(t)
                ms.append(m)
            yield torch.from_numpy(np.stack(xs)), torch.from_numpy(np.stack(ts)), torch.tensor(ms)

    def load(s, f, cache):
        if f not in cache:
            z = np.load(f)
            cache[f] = {k: z[k] for k in z.files}
        return cache[f]

    def place(s, rng, h, w):
        """A piece of a photograph."""
        V = s.places[rng.integers(len(s.places))]
        k = rng.uniform(0.4, 1)
        a, b = int(V.shape[0] * k), int(V.shape[1] * k * rng.uniform(0.5, 1))
        y, x = rng.integers(V.shape[0] - a + 1), rng.integers(V.shape[1] - b + 1)
        return linear(cv2.resize(V[y : y + a, x : x + b], (w, h), interpolation=cv2.INTER_AREA if b > w else cv2.INTER_LINEAR) / 255)

    def sample(s, rng, files, cache, h, w):
        if s.mains and rng.random() < 0.12:
            z = s.mains[rng.integers(len(s.mains))]
            M, O = z["S"], np.zeros_like(z["S"])
            A, B = (M.astype(np.float32) / 255)[..., None], linear(z["V"] / 255)
            P = A * B
        else:
            z = s.load(files[rng.integers(len(files))], cache)
            d = lambda k, y=z: (y[k].astype(np.float32) / 255) ** 2
            P, A, B = d("P"), d("A")[..., None], d("B")
            M, O = z["M"], z["O"]
        far = rng.random() < 0.06
        if far:
            if "B" not in z:  # it stands in its photograph, whose place must not show
                B = s.place(rng, *M.shape) if s.places else np.full_like(P, rng.random())
            P, A, M, O = far_off(rng, P, A, M, O)
        H, W = M.shape
        if ASK == "anchors" and rng.random() < 0.35:
            open_ = slit(rng, M > 127)
            P, A, M, O = P * open_[..., None], A * open_[..., None], np.uint8(M * open_), np.uint8(O * open_)
            if "B" not in z:  # its photograph must not show in the gap
                B = s.place(rng, H, W) if s.places else np.full_like(P, rng.random())
        another = rng.random()
        if another < 0.25 and s.places:
            B = s.place(rng, H, W)
            if rng.random() < 0.3:
                B = cv2.GaussianBlur(B, (0, 0), rng.uniform(0.5, 4))
        elif another < 0.45:  # before another place
            y = s.load(files[rng.integers(len(files))], cache)
            d = lambda k, y=y: (y[k].astype(np.float32) / 255) ** 2
            B = d("B")
            if rng.random() < 0.35:
                B = d("P") + (1 - d("A")[..., None]) * B
            B = (
                cv2.resize(B, (W, H))
                if rng.random() < 0.6
                else B[:H, :W]
                if B.shape[0] >= H and B.shape[1] >= W
                else cv2.resize(B, (W, H))
            )
            if rng.random() < 0.5:
                B = B[:, ::-1]
            if rng.random() < 0.3:
                B = cv2.GaussianBlur(B, (0, 0), rng.uniform(0.5, 4))
        elif another < 0.53:
            B = studio(rng, A[..., 0])
        if not 0.45 <= another < 0.53 and rng.random() < 0.2:
            B = B * (1 - shadow(rng, A[..., 0]))[..., None]
        if rng.random() < 0.5:
            P = np.clip(P * rng.uniform(0.6, 1.5) * rng.uniform(0.85, 1.18, 3).astype(np.float32), 0, 1)
        if rng.random() < 0.25:  # colours of the place
            mb, mf = B.reshape(-1, 3).mean(0) + 0.02, (P.reshape(-1, 3).sum(0) / max(1, A.sum())) + 0.02
            P = np.clip(P * (mb / mf) ** rng.uniform(0.3, 1), 0, 1)
        if rng.random() < 0.15:
            P = np.minimum(of_parts(rng, P), A)
        im = P + (1 - A) * B
        im = srgb(np.clip(im * rng.uniform(0.7, 1.35), 0, 1)).astype(np.float32)
        if rng.random() < 0.6:
            g = im.mean(2, keepdims=True)
            im = g + (im - g) * rng.uniform(0.2, 1.4)
            im = (im - 0.5) * rng.uniform(0.75, 1.2) + 0.5 + rng.uniform(-0.05, 0.05, 3)
            if rng.random() < 0.2:
                im = im[..., rng.permutation(3)].copy()
        target = M
        oth = O.astype(np.float32) / 255
        k, lab, st, _ = cv2.connectedComponentsWithStats((O > 127).astype(np.uint8))
        big = [i for i in range(1, k) if st[i, 4] > 0.008 * H * W]
        pick = rng.random()
        mode = ASK or MODES[int(np.searchsorted(np.cumsum(OFTEN), pick))]
        if mode == "none" and O.sum() > 0.3 * M.sum():
            mode = "marks" if rng.random() < 0.5 else "box"
        if mode != "none" and big and rng.random() < 0.4:
            i = big[rng.integers(len(big))]
            near = cv2.dilate((lab == i).astype(np.uint8), np.ones((3, 3), np.uint8))
            target = O * near
        inside = target > 127
        if inside.sum() < (12 if far else 60):
            raise ValueError
        x0, y0, x1, y1 = bounds(target > 40)
        bw, bh = x1 - x0, y1 - y0
        box = None
        if mode == "box":
            e = rng.uniform(-0.02, 0.16, 4)
            box = [max(0, x0 - e[0] * bw), max(0, y0 - e[1] * bh), min(W, x1 + e[2] * bw), min(H, y1 + e[3] * bh)]
            m = rng.uniform(0.15, 0.6)
            q = [box[0] - m * bw, box[1] - m * bh, box[2] + m * bw, box[3] + m * bh]
        elif mode == "anchors":
            target = one_piece(target)
            anchors = anchors_on(rng, target > 127)
            (x0, y0), (x1, y1) = anchors.min(0), anchors.max(0)
            bw, bh = x1 - x0, y1 - y0
            e = rng.uniform(0.08, 0.17, 4) * max(bw, bh)
            box = [max(0, x0 - e[0]), max(0, y0 - e[1]), min(W, x1 + e[2]), min(H, y1 + e[3])]
            m = rng.uniform(0.1, 0.5)
            q = [box[0] - m * bw, box[1] - m * bh, box[2] + m * bw, box[3] + m * bh]
        elif mode in ("trimap", "cut"):  # near its own size, around some place on its edge
            ys, xs = np.nonzero(outline(target / 255))
            i, m = rng.integers(len(xs)), rng.uniform(0.5, 1.2) / 2
            q = [xs[i] - m * w, ys[i] - m * h, xs[i] + m * w, ys[i] + m * h]
        elif mode == "none" or rng.random() < 0.5:
            q = [0, 0, W, H]
        else:
            m = rng.uniform(0.1, 1, 4)
            q = [x0 - m[0] * bw, y0 - m[1] * bh, x1 + m[2] * bw, y1 + m[3] * bh]
        q = [max(0, q[0]), max(0, q[1]), min(W, q[2]), min(H, q[3])]
        if rng.random() < 0.7:  # near the shape of what the net sees
            cw, ch = q[2] - q[0], q[3] - q[1]
            if cw / ch < w / h:
                a = min(W, ch * w / h) - cw
                l = min(q[0], a * rng.random())
                q[0] -= l
                q[2] = min(W, q[2] + a - l)
            else:
                a = min(H, cw * h / w) - ch
                l = min(q[1], a * rng.random())
                q[1] -= l
                q[3] = min(H, q[3] + a - l)
        q = [int(q[0]), int(q[1]), int(np.ceil(q[2])), int(np.ceil(q[3]))]
        if q[2] - q[0] < 24 or q[3] - q[1] < 24:
            raise ValueError
        cut = lambda a: cv2.resize(
            np.ascontiguousarray(a[q[1] : q[3], q[0] : q[2]]),
            (w, h),
            interpolation=cv2.INTER_AREA if (q[2] - q[0]) * (q[3] - q[1]) > w * h else cv2.INTER_LINEAR,
        )
        im, t = cut(im), cut(target.astype(np.float32) / 255)
        sx, sy = w / (q[2] - q[0]), h / (q[3] - q[1])
        im = im + rng.normal(0, rng.uniform(0, 0.03), im.shape).astype(np.float32)
        bx = np.zeros((h, w), np.float32)
        keep, drop = [], []
        if box is not None:
            bx[:] = -1
            bx[
                int(round((box[1] - q[1]) * sy)) : int(round((box[3] - q[1]) * sy)),
                int(round((box[0] - q[0]) * sx)) : int(round((box[2] - q[0]) * sx)),
            ] = 1
        if mode == "marks" or (mode == "box" and rng.random() < 0.2):
            di = cv2.distanceTransform(np.pad((t > 0.9).astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
            near = cv2.dilate((t > 0.05).astype(np.uint8), np.ones((25, 25), np.uint8)) & (t < 0.02)
            othr = cut(np.where(target == M, O, M).astype(np.float32)) > 200

            strokes = rng.choice([0, 0, 0, 0, 0.5, 1])

            def some(m, n, list_, apart=False):
                """Places or strokes on m; far from those there already, the farthest of some, where a careful hand sets them."""
                ys, xs = np.nonzero(m)
                for _ in range(n if len(xs) else 0):
                    if rng.random() < strokes:
                        list_.extend(stroke(rng, m))
                        continue
                    i = rng.integers(len(xs), size=12 if apart and list_ else 1)
                    away = [min((xs[j] - x) ** 2 + (ys[j] - y) ** 2 for x, y in list_) if list_ else 0 for j in i]
                    j = i[int(np.argmax(away))]
                    list_.append((xs[j], ys[j]))

            apart = rng.random() < 0.5
            some(di >= 0.6 * di.max() if rng.random() < 0.6 else di > 0.3, 1, keep)
            some(di >= min(3, 0.4 * di.max()) if di.max() > 0 else di > 0, int(rng.integers(0, 5)), keep, apart)
            if apart and rng.random() < 0.7:  # one on each other thing
                k, lab, st, _ = cv2.connectedComponentsWithStats((othr & (t < 0.02)).astype(np.uint8))
                for i in sorted(range(1, k), key=lambda i: -st[i, 4])[:3]:
                    if st[i, 4] > 0.004 * h * w:
                        some(cv2.erode((lab == i).astype(np.uint8), np.ones((3, 3), np.uint8)), 1, drop, apart)
            else:
                some(othr & (t < 0.02), int(rng.integers(0, 3)), drop)
            some(near > 0, int(rng.integers(0, 3)), drop, apart)
            some(t < 0.02, int(rng.integers(0, 4)), drop, apart)
            if not keep:
                raise ValueError
        if mode == "anchors":  # to keep and to drop at once; within the box 0, within the lines from one to the next 1
            keep = drop = [((x - q[0]) * sx, (y - q[1]) * sy) for x, y in anchors]
            bx = np.minimum(bx, 0)
            cv2.fillPoly(bx, [np.int32(np.floor(keep))], 1)
        keep, drop = bumps(keep, h, w), bumps(drop, h, w)
        if mode == "trimap":  # everything known is kept or dropped
            edge = 1 - ((t > 0.02) & (t < 0.98) | (outline(t) > 0)).astype(np.uint8)
            away = cv2.distanceTransform(edge, cv2.DIST_L2, 5)
            keep = ((t >= 0.98) & (away > rng.uniform(1, 16))).astype(np.float32)
            drop = ((t <= 0.02) & (away > rng.uniform(1, 16))).astype(np.float32)
        if mode == "cut":
            keep, drop = along(cut_by_colours(rng, im, t), rng.uniform(8, 16))
        x = np.concatenate([im.transpose(2, 0, 1) * 2 - 1, bx[None], keep[None], drop[None]]).astype(np.float32)
        if rng.random() < 0.5:
            x, t = x[:, :, ::-1].copy(), t[:, ::-1].copy()
        return x, np.stack([t, outline(t)]).astype(np.float32), MODES.index(mode)


def correct(x, p, t):
    """one more mark for each, in the middle of the largest error"""
    for i in range(len(x)):
        e = ((p[i, 0] > 0.5) != (t[i, 0] > 0.5)).numpy().astype(np.uint8)
        k, lab, st, _ = cv2.connectedComponentsWithStats(e)
        if k < 2:
            continue
        j = 1 + int(np.argmax(st[1:, 4]))
        d = cv2.distanceTransform(np.pad((lab == j).astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
        if d.max() < 1.5:
            continue
        y, xx = np.unravel_index(int(np.argmax(d)), d.shape)
        ch = 4 if t[i, 0, y, xx] > 0.5 else 5
        x[i, ch] = torch.maximum(x[i, ch], torch.from_numpy(bumps([(xx, y)], *d.shape)))


def own_cut(rng, x, t, net):
    """Along the outline of what the net makes of a place or two, instead, where that is worth looking at again."""
    y = x.clone()
    for i in range(len(x)):
        for channel, side in ((4, t[i, 0] > 0.9), (5, t[i, 0] < 0.1)):
            ys, xs = torch.nonzero(side, as_tuple=True)
            at = rng.integers(len(xs), size=int(rng.integers(1, 4))) if len(xs) else []
            y[i, channel] = torch.from_numpy(bumps([(int(xs[j]), int(ys[j])) for j in at], *side.shape))
    with torch.no_grad():
        p = torch.sigmoid(net(y))[:, 0] > 0.5
    for i in range(len(x)):
        right = t[i, 0] > 0.5
        if (p[i] & right).sum() > 0.6 * (p[i] | right).sum():
            keep, drop = along(p[i].numpy().astype(np.uint8), rng.uniform(8, 16))
            x[i, 4], x[i, 5] = torch.from_numpy(keep), torch.from_numpy(drop)


def loss_of(o, t, x, m):
    """Of the thing and of its outline; a trimap asks for coverage where it does not know."""
    every = F.binary_cross_entropy_with_logits(o, t, reduction="none")
    line, matte, known = every[m < 4, 1].mean(), every[:, 0], m < 4
    unknown = (x[:, 4] + x[:, 5] < 0.5).float() * (m >= 4)[:, None, None]
    p = torch.sigmoid(o[known, 0])
    inter = (p * t[known, 0]).sum((1, 2))
    union = (p + t[known, 0]).sum((1, 2)) - inter
    thing = matte[known].mean() + (1 - (inter + 1) / (union + 1)).mean()
    return thing, line, (matte * unknown).sum() / (unknown.sum() + 1) * (m >= 4).float().mean() * 8


def go_on(net, file, view):
    """What was trained before; of weights.ts what its normalisation takes away is put back, as views (each from view()) have it."""
    had = export.read(file) if file.endswith(".ts") else torch.load(file)
    for name in export.LATER:
        if name.endswith(".b") and name not in had and name + ".0.weight" not in had:
            nn.init.zeros_(net.get_submodule(name)[1].weight)
    if not file.endswith(".ts"):
        net.load_state_dict(had, strict=False)
        return
    net.train()
    at = {}
    for name, (w, b) in had.items():
        part = net.get_submodule(name)
        if name in export.PLAIN:
            part.weight.data, part.bias.data = w.reshape(part.weight.shape), b
        else:
            part[0].weight.data = w
            at[name] = (part[1], b, [])
            part[1].forward = lambda x, b=b, seen=at[name][2]: (seen.append(x), x + b[None, :, None, None])[1]
    sums = {name: 0 for name in at}
    with torch.no_grad():
        for _ in range(40):
            net(view())
            for name, (_, _, seen) in at.items():
                x = seen.pop()
                sums[name] = sums[name] + torch.stack([x.mean((0, 2, 3)), (x * x).mean((0, 2, 3))]) / 40
    for name, (norm, b, _) in at.items():
        del norm.forward
        mean, square = sums[name]
        norm.running_mean.data, norm.running_var.data = mean, (square - mean**2).clamp(min=1e-8)
        norm.weight.data, norm.bias.data = (norm.running_var + 1e-5).sqrt(), b + mean


def running_mean(mean, net, step):
    """Of the weights, over the last 500 steps or so: what is kept."""
    now, keep = net.state_dict(), min(0.998, 1 - 1 / step)
    if mean is None:
        return {k: v.clone() for k, v in now.items()}
    return {k: keep * mean[k] + (1 - keep) * v if v.is_floating_point() else v.clone() for k, v in now.items()}


if __name__ == "__main__":
    torch.manual_seed(1)
    net = Net().to(memory_format=torch.channels_last)
    minutes = float(arg("--minutes", 60))
    old = arg("--from", None)
    batch = 32
    sixteen = "amx_bf16" in open("/proc/cpuinfo").read()
    print(sum(p.numel() for p in net.parameters()), "weights", flush=True)
    loader = iter(
        torch.utils.data.DataLoader(
            Scenes(sys.argv[1], arg("--without", "").split(","), batch, arg("--photographs", None)),
            batch_size=None,
            num_workers=2,
            prefetch_factor=4,
        )
    )
    if old:
        go_on(net, old, lambda: next(loader)[0])
    peak = float(arg("--rate", 3e-3))
    opt = torch.optim.AdamW(net.parameters(), lr=peak, weight_decay=1e-4)
    # A pause (the process stopped for a while) does not count.
    spent, last = 0, time.time()
    step, mean = 0, None
    rng = np.random.default_rng(3)
    tally = [[] for _ in MODES]
    while True:
        spent, last = spent + min(10, time.time() - last), time.time()
        if (done := spent / 60 / minutes) >= 1:
            break
        lr = peak * min(1, (step + 1) / 200) * (0.02 + 0.98 * 0.5 * (1 + np.cos(np.pi * done)))
        for g in opt.param_groups:
            g["lr"] = lr
        x, t, m = next(loader)
        x = x.contiguous(memory_format=torch.channels_last)
        if step > 300 and rng.random() < 0.3:
            some = torch.nonzero((m >= 1) & (m <= 3))[:, 0]
            if len(some):
                for _ in range(int(rng.integers(1, 3))):
                    net.eval()
                    with torch.no_grad():
                        p = torch.sigmoid(net(x[some]))
                    y = x[some].clone()
                    correct(y, p, t[some])
                    x[some] = y
                net.train()
        some = torch.nonzero(m == 5)[:, 0]
        some = some[: int(rng.integers(0, len(some) + 1))]
        if len(some):
            net.eval()
            y = x[some].clone()
            own_cut(rng, y, t[some], net)
            x[some] = y
            net.train()
        with torch.autocast("cpu", torch.bfloat16, sixteen):
            o = net(x)
        o = o.float()
        a, line, matte = loss_of(o, t, x, m)
        opt.zero_grad()
        (a + line + matte).backward()
        nn.utils.clip_grad_norm_(net.parameters(), 2.0)
        opt.step()
        step += 1
        mean = running_mean(mean, net, step)
        with torch.no_grad():
            q, y = o > 0, t > 0.5
            iou = (q & y).sum((2, 3)) / ((q | y).sum((2, 3)) + 1e-6)
            for i in range(len(m)):
                unknown = x[i, 4] + x[i, 5] < 0.5
                off = (torch.sigmoid(o[i, 0]) - t[i, 0]) ** 2 * unknown
                error = off.sum() / (unknown.sum() + 1e-6) if m[i] >= 4 else None
                tally[m[i]].append(float(iou[i, 0] if error is None else error))
        if step % 100 == 0:
            print(
                "%5d  %.0f min  loss %.3f  iou none %.3f box %.3f marks %.3f anchors %.3f  squared error %.4f, cut %.4f"
                % (step, spent / 60, float(a), *[np.mean(v[-800:]) for v in tally]),
                flush=True,
            )
        if step % 200 == 0:
            torch.save(mean, sys.argv[2])
    torch.save(mean, sys.argv[2])
