#!/usr/bin/python3
"""Trains what finds water, from what finds things: every view is asked where it mirrors what stands above it. See README.md.
usage: trainWater.py LAYERS WET DRY OUT.pt --from weights.ts|OLD.pt [--minutes N] [--rate 1e-3] [--photographs FOLDER] [--horizon 0]
WET, DRY: what smallPlaces.py drew with --coast and without. Of four views one is of the first, four in ten have water drawn into them or none (water.py),
the others have none. FOLDER: what photographs.py made: one view in seven, in the place of drawn ones, half of them with water. It is taught where the
horizon lies, too; with --horizon 3 the error of each column counts as well. Nothing asks for that.
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
# Of these, what may stand above water.
SCENES = 8


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


def below(h, w, y, tilt):
    """Where a picture lies below a horizon at row y in its middle, tilted so many degrees clockwise."""
    line = y + np.tan(np.radians(tilt)) * (np.arange(w, dtype=np.float32) + 0.5 - w / 2)
    return np.clip(np.arange(h, dtype=np.float32)[:, None] + 1 - line[None], 0, 1)


unknown = lambda im: np.stack([np.zeros(im.shape[:2], np.float32), np.full(im.shape[:2], -1, np.float32)], 2)


def turned(rng, im, z):
    """A view of a place, now and then turned a little; its water, and what lies below its horizon."""
    h, w = im.shape[:2]
    t = np.stack([z["W"].astype(np.float32) / 255, below(h, w, float(z["Y"]) * h, float(z["T"])) if "Y" in z else np.full((h, w), -1, np.float32)], 2)
    if rng.random() < 0.4:
        by = rng.normal(0, 2.5)
        grow = np.cos(np.radians(abs(by))) + w / h * np.sin(np.radians(abs(by)))
        turn = cv2.getRotationMatrix2D((w / 2 - 0.5, h / 2 - 0.5), by, grow)
        im, t = cv2.warpAffine(im, turn, (w, h), flags=cv2.INTER_LINEAR), cv2.warpAffine(t, turn, (w, h), flags=cv2.INTER_LINEAR)
    return im, t


class Views(torch.utils.data.IterableDataset):
    def __init__(s, layers, wet, small, batch, photographs):
        s.layers, s.wet, s.small, s.batch = layers, wet, small, batch
        marked = [z for z in (dict(np.load(f)) for f in sorted(glob.glob(photographs + "/*.npz"))) if "W" in z] if photographs else []
        s.marked = [[z for z in marked if bool(z["W"].any()) == wet] for wet in (True, False)]

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

    def view(s, rng, h, w):
        light = lambda z, k: (z[k].astype(np.float32) / 255) ** 2
        pick = rng.random()
        if pick < 0.4:
            of = s.places if pick < 0.25 else s.dry
            z = s.load(of[rng.integers(len(of))])
            im, t = part(rng, *turned(rng, linear(z["V"][rng.integers(len(z["V"]))] / 255), z), h, w, 0.45)
        elif pick < 0.5:
            z = s.load(s.things[rng.integers(len(s.things))])
            im = light(z, "P") + (1 - light(z, "A")[..., None]) * light(z, "B")
            im, t = part(rng, im, unknown(im), h, w, 0.5)
        elif pick < 0.6:
            im = s.photos[rng.integers(len(s.photos))]
            im, t = part(rng, im, unknown(im), h, w, 0.35)
        elif pick < 0.74 and s.marked[0]:
            of = s.marked[int(pick > 0.67)]
            z = of[rng.integers(len(of))]
            im, t = part(rng, *turned(rng, linear(z["V"] / 255), {"T": 0, **z}), h, w, 0.4)
        else:
            things = [s.load(s.things[rng.integers(len(s.things))]) for _ in range(2)]
            im, m, line = water.shown(rng, h, w, [(light(z, "P"), light(z, "A")) for z in things], s.photos[:SCENES])
            t = np.stack([m, below(h, w, line, 0) if line is not None else np.full((h, w), -1, np.float32)], 2)
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


def loss_of(o, t, horizon):
    every = F.binary_cross_entropy_with_logits(o, t, reduction="none")
    p = torch.sigmoid(o[:, 0])
    inter, both = (p * t[:, 0]).sum((1, 2)), (p + t[:, 0] - p * t[:, 0]).sum((1, 2))
    water = every[:, 0].mean() + 0.5 * (1 - (inter + 300) / (both + 300)).mean()
    known = (t[:, 1] >= 0).float()
    line = (every[:, 1] * known).mean()
    off = ((torch.sigmoid(o[:, 1]) - t[:, 1]) * known).mean(1).abs().mean()  # of each column: what is read from it
    return water + 0.5 * line + horizon * off


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
    horizon, mean = float(arg("--horizon", 0)), None
    spent, last, step, tally = 0, time.time(), 0, []
    while True:
        spent, last = spent + min(10, time.time() - last), time.time()
        done = min(1, spent / 60 / minutes)
        for g in opt.param_groups:
            g["lr"] = peak * min(1, (step + 1) / 200) * (0.02 + 0.98 * 0.5 * (1 + np.cos(np.pi * done)))
        x, t = next(loader)
        net.train()
        with torch.autocast("cpu", torch.bfloat16, sixteen):
            o = net(x.contiguous(memory_format=torch.channels_last))
        loss = loss_of(o.float(), t, horizon)
        opt.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(net.parameters(), 2.0)
        opt.step()
        step += 1
        with torch.no_grad():
            q, y = o[:, 0] > 0, t[:, 0] > 0.5
            mean = running_mean(mean, net, step)
            tally += [float(v) for v in ((q & y).sum((1, 2)) / (q | y).sum((1, 2)))[y.sum((1, 2)) > 0]]
        if step % 50 == 0:
            print("%5d  %.1f min  loss %.3f  overlap where there is water %.3f" % (step, spent / 60, float(loss), np.mean(tally[-1600:])), flush=True)
        if step % 200 == 0 or done == 1:
            torch.save(mean, out)
        if done == 1:
            break
