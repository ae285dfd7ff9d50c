"""Water for training: a mirrored, rippled picture of whatever stands above it, at the size the network sees.

What a pixel of water shows is what its mirrored line of sight meets, by Fresnel's share, and else the water's own colour (Schlick 1994). Waves are a sum
of sines on the level plane (Tessendorf, "Simulating ocean water", 2001, without its spectrum): the farther, the closer they stand, and those finer than a
pixel blur what is mirrored, mostly up and down. Colours are linear light.
"""
import numpy as np, cv2

# Quantiles of the normal distribution: waves too fine to be seen one by one.
FINE = np.array([-1.5, -0.67, -0.2, 0.2, 0.67, 1.5], np.float32)


def noise(rng, h, w, base=3, rough=0.6, stretch=1.0):
    """Values 0-1, finer and weaker by octaves."""
    out, sum_, a, n = np.zeros((h, w), np.float32), 0.0, 1.0, base
    while n < max(h, w):
        g = rng.random((max(2, n), max(2, int(n * stretch * w / h)))).astype(np.float32)
        out += a * cv2.resize(g, (w, h), interpolation=cv2.INTER_CUBIC)
        sum_, a, n = sum_ + a, a * rough, n * 2
    return out / sum_


def colour(rng, low, high, grey):
    """Of light between two, greyer or livelier."""
    c = rng.random(3).astype(np.float32)
    return (c * (1 - grey) + c.mean() * grey) * rng.uniform(low, high) / max(0.05, c.mean() if grey > 0.5 else c.max())


def sky(rng, h, w):
    blue = np.array([0.15, 0.35, 0.8], np.float32) * rng.uniform(0.3, 1.1)
    low = np.array([0.8, 0.85, 0.9], np.float32) * rng.uniform(0.4, 1.1)
    kind = rng.random()
    if kind < 0.2:
        blue, low = np.full(3, rng.uniform(0.2, 0.8), np.float32), np.full(3, rng.uniform(0.3, 0.95), np.float32)
    elif kind < 0.4:
        blue, low = colour(rng, 0.05, 0.5, 0.4), np.array([1, rng.uniform(0.35, 0.8), rng.uniform(0.1, 0.6)], np.float32)
    elif kind < 0.48:
        blue, low = colour(rng, 0.002, 0.03, 0.5), colour(rng, 0.01, 0.12, 0.4)
    t = np.linspace(0, 1, h, dtype=np.float32)[:, None, None] ** rng.uniform(0.5, 2.5)
    s = blue * (1 - t) + low * t + np.zeros((h, w, 1), np.float32)
    if rng.random() < 0.75:
        n = noise(rng, h, w, int(rng.integers(2, 5)), rng.uniform(0.45, 0.7), rng.uniform(0.3, 1))
        k = np.clip((n - rng.uniform(0.35, 0.65)) / rng.uniform(0.05, 0.3), 0, 1)[..., None]
        s = s * (1 - k) + k * (low * rng.uniform(0.4, 1.2) * (0.6 + 0.6 * noise(rng, h, w)[..., None]))
    return s


def texture(rng, h, w, perspective):
    """Ground or rock or leaves; in perspective finer with distance from its first row on."""
    a, b = colour(rng, 0.01, 0.5, rng.uniform(0.2, 0.95)), colour(rng, 0.01, 0.5, rng.uniform(0.2, 0.95))
    if rng.random() < 0.5:
        g = np.array([[0.1, 0.16, 0.04], [0.25, 0.2, 0.12], [0.35, 0.32, 0.27]], np.float32)
        a, b = g[rng.integers(3)] * rng.uniform(0.3, 1.4), g[rng.integers(3)] * rng.uniform(0.2, 1.2)
    n = noise(rng, h, w, int(rng.integers(2, 20)), rng.uniform(0.6, 0.95))
    if perspective:
        y = np.arange(h, dtype=np.float32)[:, None] + 1.0
        far = rng.uniform(0.02, 0.15) * h
        depth = h / (y + far)
        x = (np.arange(w, dtype=np.float32)[None] - w / 2) * depth * 0.5
        big = noise(rng, 256, 256, int(rng.integers(4, 60)), rng.uniform(0.6, 0.95))
        n = cv2.remap(big, (x + 128 + 0 * y) % 255, (40 * depth + 0 * x) % 255, cv2.INTER_LINEAR)
        seen = np.clip(6 / depth / depth, 0.05, 1)
        n = n * seen + (1 - seen) * 0.5
    n = np.clip((n - 0.5) * rng.uniform(1, 3.5) + 0.5, 0, 1)[..., None]
    return a * (1 - n) + b * n


def landscape(rng, h, w, at):
    """Sky down to about row `at`, hills, walls or trees, and land below; and the sky's coverage."""
    out, open_ = sky(rng, h, w), np.ones((h, w), np.float32)
    line = at - 0.002 * h
    for k in range(int(rng.integers(0, 5))):
        high = h * rng.uniform(0.01, 0.3) * (1 if rng.random() < 0.7 else 0.3)
        ridge = noise(rng, 4, w, int(rng.integers(2, 12)), rng.uniform(0.25, 0.85))[0]
        if rng.random() < 0.3:
            ridge = np.repeat(rng.random(w // 4 + 2).astype(np.float32), int(rng.integers(4, 20)))[:w]
            ridge = np.pad(ridge, (0, w - len(ridge)), "edge") * (0.4 + 0.6 * ridge[0])
        top = line - high * (ridge - ridge.min()) / max(1e-6, np.ptp(ridge)) - rng.uniform(-0.3, 0.2) * high
        m = np.clip(np.arange(h, dtype=np.float32)[:, None] - top + 0.5, 0, 1)[..., None]
        haze = rng.uniform(0, 0.8) * (1 - k / 5)
        t = texture(rng, h, w, False) * (1 - haze) + haze * out[max(0, int(line) - 2)].mean(0)
        out, open_ = out * (1 - m) + t * m, open_ * (1 - m[..., 0])
    y0 = int(np.clip(at, 0, h))
    if y0 < h:
        out[y0:], open_[y0:] = texture(rng, h - y0, w, True), 0
    return out, open_


def water(rng, above, shore, horizon):
    """What water shows below a line `shore` (a row for each column) of the picture `above`. Returns its colours."""
    h, w = above.shape[:2]
    f = w * rng.uniform(0.7, 1.8)
    y, x = np.mgrid[0:h, 0:w].astype(np.float32)
    below = np.maximum(y - horizon, 0.3)
    dist = f / below
    X, Z = (x - w / 2) / f * dist, dist
    wind, rms = rng.uniform(0, np.pi), 10 ** rng.uniform(-3.2, -0.75)
    sx, sy, fine = np.zeros((h, w), np.float32), np.zeros((h, w), np.float32), np.zeros((h, w), np.float32)
    rough = rng.random() < 0.4  # waves without a wind: noise, finer and lower by octaves
    count, longest = 6 if rough else int(rng.integers(6, 14)), 10 ** rng.uniform(-0.7, 1.2)
    for k in range(count):
        length = longest * 2 ** -(float(k) if rough else rng.uniform(0, 5))
        a = wind + rng.normal(0, rng.uniform(0.2, 0.9))
        kx, kz = np.cos(a) * 2 * np.pi / length, np.sin(a) * 2 * np.pi / length
        slope = rms * np.sqrt(2 / count)
        # Waves a pixel: across, and down, where distance runs fast.
        rate = np.maximum(np.abs(kx) * dist / f, np.abs(kz) * dist * dist / f) / (2 * np.pi)
        seen = np.clip(1.5 - 3 * rate, 0, 1)
        if rough:
            u, v = (X / length * 4 + rng.uniform(0, 64)) % 63, (Z / length * 4 + rng.uniform(0, 64)) % 63
            swell = cv2.remap(rng.normal(0, 1, (64, 64, 2)).astype(np.float32), u, v, cv2.INTER_LINEAR) * (seen * slope)[..., None]
            sx, sy = sx + swell[..., 0], sy + swell[..., 1]
        else:
            c = np.cos(kx * X + kz * Z + rng.uniform(0, 7)) * seen * slope
            sx, sy = sx + c * np.cos(a), sy + c * np.sin(a)
        fine += (1 - seen**2) * (slope * np.sin(a)) ** 2 / 2
    fine = np.sqrt(fine + (rms * rng.uniform(0, 0.5)) ** 2)
    mirrored = np.zeros_like(above)
    for q in FINE:
        s = sy + q * fine
        up = 2 * shore - y - 2 * f * s * 0.5
        up = np.minimum(np.where(up < 0, -up * 0.2, up), shore - 1)
        mirrored += cv2.remap(above, x + f * sx * np.clip(below / f, 0, 1), np.clip(up, 0, h - 1), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
    mirrored /= len(FINE)
    # Looked at steeply, water shows its own colour; a rough sea is seen on the waves' near sides.
    steep = np.sin(np.clip(np.arctan(below / f) + np.abs(sy) + 0.8 * fine, 0.005, 1.5))
    share = (0.02 + 0.98 * (1 - steep) ** 5)[..., None]
    own = np.array([[0.02, 0.09, 0.13], [0.03, 0.1, 0.07], [0.09, 0.08, 0.04], [0.02, 0.05, 0.11], [0.05, 0.25, 0.28]], np.float32)
    own = own[rng.integers(len(own))] * rng.uniform(0.2, 1.6) * (0.3 + above.mean())
    if rng.random() < 0.25:  # muddy, milky, over sand
        own = colour(rng, 0.05, 0.5, rng.uniform(0.3, 0.9)) * (0.3 + above.mean())
    out = share * mirrored + (1 - share) * own
    if rng.random() < 0.25:  # the sun's glints
        out += (np.clip(noise(rng, h, w, 30, 0.95, rng.uniform(0.15, 0.5)) - rng.uniform(0.55, 0.7), 0, 1) * 20 * np.exp(-(((x - rng.uniform(0, w)) / (rng.uniform(0.05, 0.6) * w)) ** 2)))[..., None]
    if rng.random() < 0.2:  # foam
        foam = noise(rng, h, w, 14, 0.85, rng.uniform(0.1, 0.4)) - rng.uniform(0.62, 0.8) + 0.25 * np.exp(-np.abs(y - shore) / 6) * rng.random()
        out = out + (0.85 - out) * np.clip(foam * 12, 0, 1)[..., None] * rng.uniform(0.2, 0.9)
    return out


def shown(rng, h, w, things, photos):
    """A picture with water, or without any; its colours (linear), the water's coverage and the sky's, where that is known (else None)."""
    at = h * rng.uniform(0.2, 0.85) if rng.random() < 0.85 else h * rng.uniform(-0.4, 0.1)
    pick = rng.random()
    extra = int(max(0, 0.35 * h - at)) if at < 0.35 * h else 0  # what is mirrored may lie above the picture
    H, at = h + extra, at + extra
    if pick < 0.62 or not photos:
        above, k = landscape(rng, H, w, at - h * rng.uniform(0, 0.05) * (rng.random() < 0.5))
    else:
        p = photos[rng.integers(len(photos))]
        k = min(1.0, rng.uniform(0.45, 1.0))
        ph, pw = int(p.shape[0] * k), int(p.shape[1] * k)
        y0, x0 = rng.integers(p.shape[0] - ph + 1), rng.integers(p.shape[1] - pw + 1)
        above = cv2.resize(p[y0 : y0 + ph, x0 : x0 + pw], (w, H), interpolation=cv2.INTER_AREA)
        if rng.random() < 0.5:
            above = above[:, ::-1].copy()
        above, k = above * rng.uniform(0.4, 1.3), None
    for P, A in things[: int(rng.integers(0, 3))] if rng.random() < 0.4 else []:  # what stands on the shore
        s = rng.uniform(0.2, 0.7) * H / P.shape[0]
        P, A = cv2.resize(P, None, fx=s, fy=s, interpolation=cv2.INTER_AREA), cv2.resize(A, None, fx=s, fy=s, interpolation=cv2.INTER_AREA)
        where = int(rng.integers(-P.shape[1] // 2, w)), int(at - P.shape[0] * rng.uniform(0.7, 1))
        above, k = laid(above, P, A, *where), hidden(k, A, *where)
    y = np.arange(H, dtype=np.float32)[:, None]
    if rng.random() < 0.3:  # none
        im, m = above, np.zeros((H, w), np.float32)
    else:
        shore = np.full(w, at, np.float32)
        kind = rng.random()
        if kind < 0.5:
            shore += h * rng.uniform(0, 0.03) * (noise(rng, 4, w, int(rng.integers(2, 30)), 0.8)[0] - 0.5)
        if 0.3 < kind < 0.6:  # a bank on one side
            t = np.clip((np.arange(w) - w * rng.uniform(0, 0.7)) / (w * rng.uniform(0.1, 0.6)), 0, 1) ** rng.uniform(0.5, 2)
            shore += (h * rng.uniform(0.1, 0.7) * t)[:: 1 if rng.random() < 0.5 else -1].astype(np.float32)
        horizon = min(at, shore.min()) - h * (rng.uniform(0, 0.12) if rng.random() < 0.7 else rng.uniform(0.1, 0.5))
        m = np.clip(y - shore[None] + 0.5, 0, 1)
        wet = water(rng, above.astype(np.float32), shore[None] + 0 * y, horizon)
        im = above * (1 - m[..., None]) + wet * m[..., None]
        k = None if k is None else k * (1 - m)
        if rng.random() < 0.35:  # a near shore, a quay
            bank = H - h * rng.uniform(-0.1, 0.3) + h * rng.uniform(0, 0.2) * (noise(rng, 4, w, int(rng.integers(2, 12)), 0.7)[0] - 0.5) + rng.uniform(-0.3, 0.3) * (np.arange(w) - w / 2)
            n = np.clip(y - bank[None] + 0.5, 0, 1).astype(np.float32)
            im = im * (1 - n[..., None]) + texture(rng, H, w, rng.random() < 0.5) * n[..., None]
            m, k = m * (1 - n), None if k is None else k * (1 - n)
    for P, A in things[-int(rng.integers(1, 3)) :] if rng.random() < 0.4 else []:  # boats, swimmers, what stands before it
        s = rng.uniform(0.15, 0.8) * H / P.shape[0]
        P, A = cv2.resize(P, None, fx=s, fy=s, interpolation=cv2.INTER_AREA), cv2.resize(A, None, fx=s, fy=s, interpolation=cv2.INTER_AREA)
        x0, y0 = int(rng.integers(-P.shape[1] // 2, w)), int(rng.integers(-P.shape[0] // 3, H))
        im, m, k = laid(im, P, A, x0, y0), hidden(m, A, x0, y0), hidden(k, A, x0, y0)
    return im[extra:], m[extra:], None if k is None else k[extra:]


def hidden(m, A, x0, y0):
    """What of a coverage, where that is known, a thing with this coverage leaves to be seen."""
    return None if m is None else laid(m[..., None], 0 * A[..., None], A, x0, y0)[..., 0]


def laid(im, P, A, x0, y0):
    """A thing, times its coverage, over a picture."""
    h, w = im.shape[:2]
    l, t, r, b = max(0, x0), max(0, y0), min(w, x0 + A.shape[1]), min(h, y0 + A.shape[0])
    if r <= l or b <= t:
        return im
    out = im.copy()
    part = np.s_[t - y0 : b - y0, l - x0 : r - x0]
    out[t:b, l:r] = P[part] + (1 - A[part][..., None]) * im[t:b, l:r]
    return out
