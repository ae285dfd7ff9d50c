#!/usr/bin/python3
"""Writes a trained network as weights.ts, and reads it back so that training can go on from it.  usage: export.py NET.pt WEIGHTS.ts [EARLIER.pt|EARLIER.ts SHARE]
EARLIER: what NET went on from, to be mixed in by its share, 0-1 (Wortsman et al., "Model soups", ICML 2022).
"""
import base64, re, sys
import numpy as np, torch

# In the order of the file: inputs, outputs, size in px. Those with their normalisation in them have a name of two parts in the net.
LAYERS = {
    "stem": (6, 24, 3),
    "r1.a": (24, 24, 3),
    "r1.b": (24, 24, 3),
    "d2": (24, 48, 3),
    "r2.a": (48, 48, 3),
    "r2.b": (48, 48, 3),
    "d3": (48, 96, 3),
    "r3.a": (96, 96, 3),
    "r3.b": (96, 96, 3),
    "d4": (96, 128, 3),
    "r4.a": (128, 128, 3),
    "r4.b": (128, 128, 3),
    "r5.a": (128, 128, 3),
    "r5.b": (128, 128, 3),
    "r6.a": (128, 128, 3),
    "r6.b": (128, 128, 3),
    "r7.a": (128, 128, 3),
    "r7.b": (128, 128, 3),
    "context": (128, 128, 1),
    "u3": (128, 96, 1),
    "q3.a": (96, 96, 3),
    "q3.b": (96, 96, 3),
    "q4.a": (96, 96, 3),
    "q4.b": (96, 96, 3),
    "u2": (96, 48, 1),
    "q2.a": (48, 48, 3),
    "q2.b": (48, 48, 3),
    "u1": (48, 24, 1),
    "q1.a": (24, 24, 3),
    "q1.b": (24, 24, 3),
    "out": (24, 8, 3),
}
PLAIN = ("context", "out")
# Residual blocks that were added later: what was made before lacks them, and they do nothing then.
LATER = ("r6.a", "r6.b", "r7.a", "r7.b", "q4.a", "q4.b")


def folded(sd, name):
    """A convolution with its normalisation in it: weights and biases."""
    if name in PLAIN:
        w = sd[name + ".weight"]
        return w.reshape(*w.shape[:2], *(w.shape[2:] or (1, 1))), sd[name + ".bias"]
    w = sd[name + ".0.weight"]
    g = sd[name + ".1.weight"] / np.sqrt(sd[name + ".1.running_var"] + 1e-5)
    return w * g[:, None, None, None], sd[name + ".1.bias"] - sd[name + ".1.running_mean"] * g


def bytes_of(w, b):
    o = -(-len(w) // 8) * 8
    w = np.concatenate([w, np.zeros((o - len(w), *w.shape[1:]))])
    b = np.concatenate([b, np.zeros(o - len(b))])
    scale = np.maximum(np.abs(w).reshape(o, -1).max(1), 1e-12) / 127
    q = np.round(w / scale[:, None, None, None]).clip(-127, 127).astype(np.int8)
    q = q.reshape(o // 8, 8, w.shape[1], -1).transpose(0, 3, 2, 1)  # eights of outputs, px, inputs, output of the eight
    return scale.astype("<f4").tobytes() + b.astype("<f4").tobytes() + np.ascontiguousarray(q).tobytes()


def read(path):
    """Weights and biases of each layer as weights.ts has them."""
    data = base64.b64decode(re.search(r"=\s*'([^']*)'", open(path).read())[1])
    out, at = {}, 0
    whole = len(data) == sum(o * (8 + a * side * side) for a, o, side in LAYERS.values())
    for name, (a, o, side) in LAYERS.items():
        if name in LATER and not whole:
            continue
        scale, b = np.frombuffer(data, "<f4", 2 * o, at).reshape(2, o)
        q = np.frombuffer(data, np.int8, a * o * side * side, at + 8 * o)
        w = q.reshape(o // 8, side * side, a, 8).transpose(0, 3, 2, 1).reshape(o, a, side, side)
        out[name] = w * scale[:, None, None, None], b
        at += 8 * o + q.size
    assert at == len(data)
    return {k: [torch.tensor(np.array(v, np.float32)) for v in pair] for k, pair in out.items()}


if __name__ == "__main__":
    def weights(path):
        if path.endswith(".ts"):
            return {name: [v.double().numpy() for v in pair] for name, pair in read(path).items()}
        sd = {k: v.double().numpy() for k, v in torch.load(path, map_location="cpu").items()}
        return {name: folded(sd, name) for name in LAYERS if name.split(".")[0] + ".a.0.weight" in sd or name not in LATER}

    net = weights(sys.argv[1])
    if len(sys.argv) > 3:
        earlier, share = weights(sys.argv[3]), float(sys.argv[4])
        # A block that was not there adds nothing.
        nothing = lambda name: [0 * v if name.endswith(".b") else v for v in net[name]]
        net = {name: [share * a + (1 - share) * b for a, b in zip(earlier.get(name) or nothing(name), net[name])] for name in net}
    out = b"".join(bytes_of(*net[name]) for name in net)
    open(sys.argv[2], "w").write(
        "/** Made by training/export.py: the network's weights, base64. */\nexport const WEIGHTS =\n  '"
        + base64.b64encode(out).decode()
        + "'\n"
    )
    print(len(out), "bytes")
