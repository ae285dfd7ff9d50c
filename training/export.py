#!/usr/bin/python3
"""Writes a trained network as weights.ts.  usage: export.py NET.pt WEIGHTS.ts"""
import base64, sys
import numpy as np, torch

sd = {k: v.double().numpy() for k, v in torch.load(sys.argv[1], map_location="cpu").items()}


def folded(name):  # the convolution with its normalisation in it
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


out = b""
for name in [
    "stem",
    "r1.a",
    "r1.b",
    "d2",
    "r2.a",
    "r2.b",
    "d3",
    "r3.a",
    "r3.b",
    "d4",
    "r4.a",
    "r4.b",
    "r5.a",
    "r5.b",
    "context",
    "u3",
    "q3.a",
    "q3.b",
    "u2",
    "q2.a",
    "q2.b",
    "u1",
    "q1.a",
    "q1.b",
    "out",
]:
    if name == "context":
        w, b = sd["context.weight"][:, :, None, None], sd["context.bias"]
    elif name == "out":
        w, b = sd["out.weight"], sd["out.bias"]
    else:
        w, b = folded(name)
    out += bytes_of(w, b)
text = base64.b64encode(out).decode()
open(sys.argv[2], "w").write(
    "/** Made by training/export.py: the network's weights, base64. */\nexport const WEIGHTS =\n  '" + text + "'\n"
)
print(len(out), "bytes")
