"""The yardstick: numpy and scipy doing the same work. One line of JSON in, one out: {"what", "n"} -> {"seconds"}."""
import json
import sys
import time

import numpy as np
from scipy import signal

rng = np.random.default_rng(1)


def filter_zero_phase(n):
    x = rng.standard_normal(n)
    sos = signal.butter(4, 0.05, output="sos")
    return lambda: signal.sosfiltfilt(sos, x)


def welch(n):
    x = rng.standard_normal(n)
    return lambda: signal.welch(x, fs=1000.0, window="hann", nperseg=4096, noverlap=2048, detrend="constant")


def copy(n):
    x = rng.standard_normal(n).astype(np.float32)
    y = np.empty_like(x)
    return lambda: np.copyto(y, x)


def expression(n):
    a, b, c = rng.standard_normal(n), rng.standard_normal(n), rng.standard_normal(n)
    return lambda: (a + b) / 2 - c * 0.3


WORK = {"filter": filter_zero_phase, "welch": welch, "copy": copy, "expression": expression}
ready = {}
for line in sys.stdin:
    ask = json.loads(line)
    key = (ask["what"], ask["n"])
    if key not in ready:
        ready[key] = WORK[ask["what"]](ask["n"])
        ready[key]()
    began = time.perf_counter()
    ready[key]()
    print(json.dumps({"seconds": time.perf_counter() - began}), flush=True)
