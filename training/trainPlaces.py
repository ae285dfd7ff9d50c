#!/usr/bin/python3
"""Trains what finds water and sky, from what finds things: every view is asked where it mirrors what stands above it, and where it shows sky. See README.md.
usage: trainPlaces.py LAYERS WET DRY OUT.pt --from weights.ts|OLD.pt [--minutes N] [--rate 1e-3] [--photographs FOLDER] [--ask horizon]
WET, DRY: what smallPlaces.py drew with --coast and without. Of five views one is of the first, three in ten have water drawn into them or none (water.py),
the others have none. FOLDER: what photographs.py made: three views in ten, half of those of water with some.
--ask horizon: instead of where it shows water every view is asked what lies below the horizon, seen or hidden, for weights of their own; six in ten are of
places, a third photographs, most of those with a known horizon.
Things from LAYERS stand before places and photographs now and then, or walls with openings.
"""
import glob, json, os, sys, time
import numpy as np, cv2, torch, torch.nn.functional as F
import water
from train import BUCKETS, Net, arg, go_on, linear, running_mean, srgb

# Photographs without water in them, for what stands above it and for what has none.
DRY = [
    "sunset_by_Aitzol_Berasategi.jpg", "seeding_by_Clements_Engelhardt.jpg", "building.jpg", "home.jpg", "leuvenA.jpg", "aero3.jpg", "scenetext01.jpg",
    "scenetext03.jpg", "chelsea.png", "coffee.png", "astronaut.png", "fruits.jpg", "aloeL.jpg", "butterfly.jpg", "left01.jpg", "rubberwhale1.png",
    "squirrel_cls.jpg", "stuff.jpg", "hubble_deep_field.jpg", "gravel.png", "grass.png", "brick.png",
]
# Of these, what may stand above water; the later ones show no sky.
SCENES, SKYLESS = 8, 8


def dry():
    """Small copies of those photographs, linear light, in that order."""
    here, out = os.path.dirname(os.path.abspath(__file__)), []
    files = {e["id"]: e["file"] for e in json.load(open(here + "/scenes/photos_open.json"))}
    for name in DRY:
        im = cv2.imread(files[name])[..., ::-1]
        s = 400 / min(im.shape[:2])
        out.append(linear(cv2.resize(im, None, fx=s, fy=s, interpolation=cv2.INTER_AREA).astype(np.float32) / 255))
    return out


def part(rng, im, t, h, w, least):
    """A piece of a picture and of its coverage, at the size that is wanted, now and then mirrored."""
    H, W = im.shape[:2]
    k = rng.uniform(least, 1)
    a, b = max(8, int(H * k * rng.uniform(0.85, 1))), max(8, int(W * k))
    y, x = rng.integers(H - a + 1), rng.integers(W - b + 1)
    s = np.s_[y : y + a, x : x + b]
    size = dict(dsize=(w, h), interpolation=cv2.INTER_AREA if b > w else cv2.INTER_LINEAR)
    im, t = cv2.resize(im[s], **size), cv2.resize(t[s], **size)
    return (im[:, ::-1], t[:, ::-1]) if rng.random() < 0.5 else (im, t)


# Coverage of what is asked, where it is not known.
UNKNOWN = -1
HORIZON = arg("--ask", None) == "horizon"
FIRST = "below the horizon" if HORIZON else "water"


def told(im, water=None, sky=None, horizon=None):
    """Coverage of water and sky, 0-1, or nothing known; what lies below the horizon in the place of water. horizon: its row in the middle, 0-1, and its tilt."""
    of = lambda k: np.full(im.shape[:2], UNKNOWN, np.float32) if k is None else k.astype(np.float32)
    return np.stack([of((None if horizon is None else below(im, *horizon)) if HORIZON else water), of(sky)], 2)


def below(im, y, tilt):
    """Coverage of what lies below a line: its row in the middle as a share of the height, degrees clockwise."""
    h, w = im.shape[:2]
    line = y * h + np.tan(np.radians(tilt)) * (np.arange(w) + 0.5 - w / 2)
    return np.clip(np.arange(h)[:, None] + 1 - line, 0, 1).astype(np.float32)


def all_told(z, im):
    """What is known of a place or a photograph."""
    share = lambda k: z[k] / 255 if k in z else None
    return told(im, share("W"), share("K"), (float(z["Y"]), float(z.get("T", 0))) if "Y" in z else None)


def turned(rng, im, t):
    """A view and what is told of it, now and then turned a little."""
    h, w = im.shape[:2]
    if rng.random() < 0.4:
        by = rng.normal(0, 2.5)
        grow = np.cos(np.radians(abs(by))) + w / h * np.sin(np.radians(abs(by)))
        turn = cv2.getRotationMatrix2D((w / 2 - 0.5, h / 2 - 0.5), by, grow)
        im, t = cv2.warpAffine(im, turn, (w, h), flags=cv2.INTER_LINEAR), cv2.warpAffine(t, turn, (w, h), flags=cv2.INTER_LINEAR)
    return im, t


def openings(rng, h, w):
    """Coverage of what is left open by a wall: an arch or a window, or several in a row, as columns leave."""
    out, n = np.zeros((h, w), np.uint8), int(rng.choice([1, 1, 1, 2, 3, 4, 6]))
    left, right = sorted(rng.uniform(-0.1, 1.1, 2) * w) if n == 1 else (rng.uniform(-0.1, 0.2) * w, rng.uniform(0.8, 1.1) * w)
    top, bottom = rng.uniform(-0.1, 0.4) * h, rng.uniform(0.6, 1.3) * h
    step = (right - left) / n
    for k in range(n):
        a, b = left + k * step, left + (k + rng.uniform(0.5, 0.95)) * step
        half, round_ = (b - a) / 2, rng.uniform(0.3, 1.5) * (rng.random() < 0.7)
        cv2.rectangle(out, (int(a), int(top + half * round_)), (int(b), int(bottom)), 255, -1)
        cv2.ellipse(out, (int(a + half), int(top + half * round_)), (max(1, int(half)), max(1, int(half * round_))), 0, 180, 360, 255, -1)
    if rng.random() < 0.5:  # ruined, or overgrown
        out = np.where(cv2.GaussianBlur(out, (0, 0), 0.02 * w) / 255 + rng.uniform(0.1, 0.6) * (water.noise(rng, h, w, 8, 0.8) - 0.5) > 0.5, 255, 0).astype(np.uint8)
    return cv2.GaussianBlur(out, (0, 0), 0.7).astype(np.float32) / 255


def covered(t, then):
    """What is told once something stands before it. What lies below the horizon does so behind a thing, too."""
    then = np.where(t < 0, t, then)
    return np.concatenate([t[..., :1], then[..., 1:]], 2) if HORIZON else then


class Views(torch.utils.data.IterableDataset):
    def __init__(s, layers, wet, small, batch, photographs):
        s.layers, s.wet, s.small, s.batch = layers, wet, small, batch
        kept = [dict(np.load(f)) for f in sorted(glob.glob(photographs + "/*.npz"))] if photographs else []
        s.marked = [z for z in kept if "W" in z or "K" in z]
        s.often = [z for z in s.marked if ("Y" in z if HORIZON else "W" in z and z["W"].any())]

    def __iter__(s):
        rng = np.random.default_rng(int(time.time() * 1e6) % 2**31 + os.getpid())
        s.photos, s.cache = dry(), {}
        n = 0
        while True:
            if n % 200 == 0:
                s.things, s.places, s.dry = glob.glob(s.layers + "/*.npz"), glob.glob(s.wet + "/*.npz"), glob.glob(s.small + "/*.npz")
            n += 1
            h, w = BUCKETS[rng.integers(len(BUCKETS))]
            xs, ts = zip(*(s.view(rng, h, w) for _ in range(s.batch)))
            yield torch.from_numpy(np.stack(xs)), torch.from_numpy(np.stack(ts))

    def load(s, f):
        if f not in s.cache:
            z = np.load(f)
            s.cache[f] = {k: z[k] for k in z.files}
        return s.cache[f]

    def behind(s, rng, im, t):
        """Now and then a thing or two before it, as large as a house seen from near or as a bird."""
        for _ in range(int(rng.integers(1, 3)) if rng.random() < 0.4 else 0):
            z = s.load(s.things[rng.integers(len(s.things))])
            k = np.exp(rng.uniform(np.log(0.15), np.log(1.3))) * im.shape[0] / z["P"].shape[0]
            P, A = (cv2.resize((z[n].astype(np.float32) / 255) ** 2, None, fx=k, fy=k, interpolation=cv2.INTER_AREA) for n in "PA")
            P = np.clip(P * 2 ** rng.uniform(-2, 1) * rng.uniform(0.8, 1.2, 3).astype(np.float32), 0, 1)
            if rng.random() < 0.2:  # as blue as the sky, or as grey
                P = P * ((im[: im.shape[0] // 3].mean((0, 1)) + 0.01) / (P.sum((0, 1)) / max(1, A.sum()) + 0.01)) ** rng.uniform(0.4, 1)
            x0, y0 = int(rng.integers(-P.shape[1] // 2, im.shape[1])), int(rng.uniform(-0.3, 1) * im.shape[0] - (rng.random() < 0.5) * 0.5 * P.shape[0])
            im = water.laid(im, P.astype(np.float32), A, x0, y0)
            t = covered(t, water.laid(t, 0 * P[..., :2], A, x0, y0))
        if rng.random() < 0.15:
            wall = 1 - openings(rng, *im.shape[:2])[..., None]
            near = s.photos[rng.integers(len(s.photos))] if rng.random() < 0.5 else water.texture(rng, *im.shape[:2], False)
            near = cv2.resize(np.float32(near), im.shape[1::-1], interpolation=cv2.INTER_AREA) * 2 ** rng.uniform(-3, 0.5)
            im, t = im * (1 - wall) + near * wall, covered(t, t * (1 - wall))
        return im, t

    def view(s, rng, h, w):
        light = lambda z, k: (z[k].astype(np.float32) / 255) ** 2
        pick, no = rng.random(), lambda im: np.zeros(im.shape[:2], np.float32)
        if HORIZON:  # from the kinds that know it
            pick = rng.choice([0.1, 0.3, 0.5, 0.6, 0.9], p=[0.3, 0.32, 0.22, 0.1, 0.06])
        if pick < 0.35:
            of = s.places if pick < 0.2 else s.dry
            z = s.load(of[rng.integers(len(of))])
            im = linear(z["V"][rng.integers(len(z["V"]))] / 255)
            im, t = part(rng, *s.behind(rng, *turned(rng, im, all_told(z, im))), h, w, 0.45)
        elif pick < 0.41:
            z = s.load(s.things[rng.integers(len(s.things))])
            im = light(z, "P") + (1 - light(z, "A")[..., None]) * light(z, "B")
            im, t = part(rng, im, told(im, no(im)), h, w, 0.5)
        elif pick < 0.47:
            i = rng.integers(len(s.photos))
            im = s.photos[i]
            im, t = part(rng, im, told(im, no(im), no(im) if i >= SKYLESS else None), h, w, 0.35)
        elif pick < 0.77 and s.marked:
            of = s.often if pick < 0.57 else s.marked
            z = of[rng.integers(len(of))]
            im = linear(z["V"] / 255)
            im, t = part(rng, *s.behind(rng, *turned(rng, im, all_told(z, im))), h, w, 0.35)
        else:
            things = [s.load(s.things[rng.integers(len(s.things))]) for _ in range(2)]
            im, m, k = water.shown(rng, h, w, [(light(z, "P"), light(z, "A")) for z in things], s.photos[:SCENES])
            t = told(im, m, k)
        im = np.clip(im, 0, 4) * 2 ** rng.uniform(-0.9, 0.6) * rng.uniform(0.85, 1.15, 3)
        if rng.random() < 0.3:  # greyer, or livelier
            im = np.maximum(0, im + rng.uniform(-0.8, 0.5) * (im.mean(2, keepdims=True) - im))
        im = srgb(np.clip(im, 0, 1)).astype(np.float32)
        if rng.random() < 0.3:
            im = np.clip(im, 0, 1) ** rng.uniform(0.7, 1.4)
        if rng.random() < 0.3:
            im = cv2.GaussianBlur(im, (0, 0), rng.uniform(0.3, 1))
        im = im + rng.normal(0, rng.uniform(0, 0.03), im.shape)
        row = np.linspace(-1, 1, h)[None, :, None] + np.zeros((1, h, w))
        x = np.concatenate([im.transpose(2, 0, 1) * 2 - 1, row, np.zeros((2, h, w))])
        return x.astype(np.float32), np.ascontiguousarray(t.transpose(2, 0, 1)).astype(np.float32)


def loss_of(o, t):
    """Cross entropy, and one minus the soft overlap of each picture, where the truth is known; how far off each column's horizon is, as a share of the height."""
    sum_ = 0
    for k in (0, 1):
        known = (t[:, k] >= 0).float()
        p, y = torch.sigmoid(o[:, k]) * known, t[:, k].clamp(min=0)
        inter, both = (p * y).sum((1, 2)), (p + y - p * y).sum((1, 2))
        any_ = known.amax((1, 2))
        cross = F.binary_cross_entropy_with_logits(o[:, k], y, reduction="none") * known
        sum_ = sum_ + cross.mean() + 0.5 * ((1 - (inter + 300) / (both + 300)) * any_).mean()
        if HORIZON and k == 0:
            sum_ = sum_ + 4 * ((p - y * known).mean(1).abs().mean(1) * any_).mean()
    return sum_


if __name__ == "__main__":
    torch.manual_seed(2)
    cv2.setNumThreads(1)
    layers, wet, small, out = sys.argv[1:5]
    minutes, peak, old = float(arg("--minutes", 60)), float(arg("--rate", 1e-3)), arg("--from", None)
    net = Net().to(memory_format=torch.channels_last)
    sixteen = "amx_bf16" in open("/proc/cpuinfo").read()
    loader = iter(torch.utils.data.DataLoader(Views(layers, wet, small, 32, arg("--photographs", None)), batch_size=None, num_workers=2, prefetch_factor=4))
    go_on(net, old, lambda: next(loader)[0])
    opt = torch.optim.AdamW(net.parameters(), lr=peak, weight_decay=1e-3)
    spent, last, step, mean, tally = 0, time.time(), 0, None, [[], []]
    while True:
        spent, last = spent + min(10, time.time() - last), time.time()
        done = min(1, spent / 60 / minutes)
        for g in opt.param_groups:
            g["lr"] = peak * min(1, (step + 1) / 200) * (0.02 + 0.98 * 0.5 * (1 + np.cos(np.pi * done)))
        x, t = next(loader)
        net.train()
        with torch.autocast("cpu", torch.bfloat16, sixteen):
            o = net(x.contiguous(memory_format=torch.channels_last))
        loss = loss_of(o.float(), t)
        opt.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(net.parameters(), 2.0)
        opt.step()
        step += 1
        with torch.no_grad():
            mean = running_mean(mean, net, step)
            for k in (0, 1):
                known = t[:, k] >= 0
                q, y = (o[:, k] > 0) & known, t[:, k] > 0.5
                tally[k] += [float(v) for v in ((q & y).sum((1, 2)) / (q | y).sum((1, 2)))[y.sum((1, 2)) > 0]]
        if step % 50 == 0:
            print("%5d  %.1f min  loss %.3f  overlap of %s %.3f, of sky %.3f" % (step, spent / 60, float(loss), FIRST, *[np.mean(v[-1600:]) for v in tally]), flush=True)
        if step % 200 == 0 or done == 1:
            torch.save(mean, out)
        if done == 1:
            break
