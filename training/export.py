#!/usr/bin/python3
"""Writes a trained network as weights.ts, and reads it back so that training can go on from it.  usage: export.py NET.pt WEIGHTS.ts [EARLIER.pt SHARE]
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
    "context": (128, 128, 1),
    "u3": (128, 96, 1),
    "q3.a": (96, 96, 3),
    "q3.b": (96, 96, 3),
    "u2": (96, 48, 1),
    "q2.a": (48, 48, 3),
    "q2.b": (48, 48, 3),
    "u1": (48, 24, 1),
    "q1.a": (24, 24, 3),
    "q1.b": (24, 24, 3),
    "out": (24, 8, 3),
}
PLAIN = ("context", "out")


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
    for name, (a, o, side) in LAYERS.items():
        scale, b = np.frombuffer(data, "<f4", 2 * o, at).reshape(2, o)
        q = np.frombuffer(data, np.int8, a * o * side * side, at + 8 * o)
        w = q.reshape(o // 8, side * side, a, 8).transpose(0, 3, 2, 1).reshape(o, a, side, side)
        out[name] = w * scale[:, None, None, None], b
        at += 8 * o + q.size
    assert at == len(data)
    return {k: [torch.tensor(np.array(v, np.float32)) for v in pair] for k, pair in out.items()}


if __name__ == "__main__":
    def weights(path):
        sd = {k: v.double().numpy() for k, v in torch.load(path, map_location="cpu").items()}
        return {name: folded(sd, name) for name in LAYERS}

    net = weights(sys.argv[1])
    if len(sys.argv) > 3:
        earlier, share = weights(sys.argv[3]), float(sys.argv[4])
        net = {name: [share * a + (1 - share) * b for a, b in zip(earlier[name], net[name])] for name in LAYERS}
    out = b"".join(bytes_of(*net[name]) for name in LAYERS)
    open(sys.argv[2], "w").write(
        "/** Made by training/export.py: the network's weights, base64. */\nexport const WEIGHTS =\n  '"
        + base64.b64encode(out).decode()
        + "'\n"
    )
    print(len(out), "bytes")
