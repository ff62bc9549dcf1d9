"""Measures what Hakobu does beside the plain library that does the nearest raw thing, in one run: hakobu figures."""

from __future__ import annotations

import gc
import os
import platform
import sys
import time
from pathlib import Path
from statistics import median

HERE = Path(__file__).resolve().parent
sys.path[:0] = [str(HERE), str(HERE.parent / "core")]

import bench  # noqa: E402  (the folder has just been put on the path)
import bounds  # noqa: E402
import build  # noqa: E402
import commands  # noqa: E402
import distances  # noqa: E402
import drafts  # noqa: E402
import exchange  # noqa: E402
import geometry  # noqa: E402
import preview  # noqa: E402
import road  # noqa: E402
import sending  # noqa: E402
import sheets  # noqa: E402
import size  # noqa: E402
import toolpaths  # noqa: E402
import words  # noqa: E402
from tracing import speed  # noqa: E402

#: name -> what is measured: a function that yields (what, ours, theirs or None, beside what), or a finished sentence.
FIGURES = {
    "commands": commands.commands,
    "read": road.read,
    "check": road.check,
    "write": road.write,
    "proof": road.proof,
    "bounds": bounds.bounds,
}
FIGURES |= {
    "formats": exchange.exchange,
    "geometry": geometry.geometry,
    "offset": distances.distances,
    "trace": speed.trace,
    "preview": preview.preview,
    "web": bench.bench,
    "drafts": drafts.drafts,
    "words": words.words,
    "build": build.build,
    "size": size.size,
    "sending": sending.sending,
    "sheets": sheets.sheets,
    "toolpaths": toolpaths.toolpaths,
}
RUNS = 7
#: Of what takes longer than this in all, in seconds, there are fewer runs, and the first is counted.
LONG_S = 20.0
#: What takes no longer than this, in seconds, is run once more before each time.
SHORT_S = 2.0


def timed(*works) -> list[float]:
    """The medians of seven runs each, in seconds, after one that is not counted: turn about, since the machine's own
    speed changes while it works; and what is short right after one more of its own that is not counted either, for what
    came before has emptied the processor's caches."""
    spent: list[list[float]] = [[] for _ in works]
    took = [0.0] * len(works)
    for run in range(RUNS + 1):
        for k, (work, times) in enumerate(zip(works, spent, strict=True)):
            if sum(times) > LONG_S:
                continue
            # Nobody pays for what the other has left lying about.
            gc.collect()
            if run and took[k] < SHORT_S:
                work()
            begin = time.perf_counter()
            work()
            took[k] = time.perf_counter() - begin
            if run or took[k] >= LONG_S / 4:
                times.append(took[k])
    return [median(times) for times in spent]


def machine() -> str:
    lines = Path("/proc/cpuinfo").read_text().splitlines()
    model = next((line.split(":")[1].strip() for line in lines if line.startswith("model name")), "")
    return f"{os.cpu_count()} processors ({model}), Python {platform.python_version()}"


def main(names: list[str]) -> int:
    unknown = [name for name in names if name not in FIGURES]
    if unknown:
        print(
            f"hakobu: {unknown[0]} is not a figure that is known here; these are: {', '.join(FIGURES)}.",
            file=sys.stderr,
        )
        return 2
    print(f"{time.strftime('%Y-%m-%d')}, {machine()}; medians of {RUNS}, warm, in milliseconds\n")
    print(f"| {'work':<58} | {'Hakobu':>8} | {'library':>8} | {'beside':<34} |")
    print(f"| {'-' * 58} | {'-' * 7}: | {'-' * 7}: | {'-' * 34} |")
    sentences: list[str] = []
    for name in names or FIGURES:
        for figure in FIGURES[name]():
            if isinstance(figure, str):
                sentences.append(figure)
                continue
            what, ours, theirs, beside = figure
            ours_s, *theirs_s = timed(ours, theirs) if theirs else timed(ours)
            other = f"{1000 * theirs_s[0]:8.1f}" if theirs_s else " " * 8
            print(f"| {what:<58} | {1000 * ours_s:8.1f} | {other} | {beside:<34} |", flush=True)
    print("", *sentences, sep="\n")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
