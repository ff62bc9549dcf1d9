"""Work shared out among the processors: kernels run without the interpreter's lock."""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache

import numpy as np

#: More threads than this are never of use: what they work on is done in tens of milliseconds.
MOST_THREADS = 4


@lru_cache(maxsize=1)
def _threads() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(processors(), thread_name_prefix="kernel")


def processors() -> int:
    return min(len(os.sched_getaffinity(0)), MOST_THREADS)


def parallel_map(work: Callable, cost: np.ndarray, least: float) -> list:
    """What `work` gives for consecutive parts of N things, each by its first and last number, in order. cost (N,): of
    each; what costs less than `least` in all is not worth sharing."""
    total = float(cost.sum())
    parts = min(processors(), max(int(total / max(least, 1e-300)), 1))
    if parts == 1 or len(cost) < parts:
        return [work(0, len(cost))]
    ends = np.searchsorted(np.cumsum(cost), total * np.arange(1, parts) / parts) + 1
    bounds = np.unique(np.concatenate([[0], ends, [len(cost)]])).tolist()
    # The first part is done here: to wake a thread takes as long as a small part.
    others = [_threads().submit(work, a, b) for a, b in zip(bounds[1:-1], bounds[2:], strict=True)]
    return [work(bounds[0], bounds[1]), *(other.result() for other in others)]


def work_queue(work: Callable[[int, int], object], count: int, step: int) -> None:
    """Works on all of so many things, a few at a time by their first and last number, where some cost far more than
    others: each processor takes the next few when it is done."""
    firsts = iter(range(0, count, step))

    def take(_: int) -> None:
        # Taking the next of an iterator is one step for all threads.
        for first in firsts:
            work(first, min(first + step, count))

    parts = min(processors(), -(-count // step))
    others = [_threads().submit(take, i) for i in range(1, parts)]
    take(0)
    for other in others:
        other.result()


def submit(work: Callable[[], object]) -> Callable[[], object]:
    """Begins a work in a thread of its own; what comes back waits for what it gives."""
    pool = ThreadPoolExecutor(1, thread_name_prefix="works")
    done = pool.submit(work)
    pool.shutdown(wait=False)
    return done.result


def run_concurrently(works: Sequence[Callable[[], object]]) -> list:
    """What each of several works gives, at once; they may share out work of their own, which has threads of its own."""
    if processors() == 1:
        return [work() for work in works]
    with ThreadPoolExecutor(processors(), thread_name_prefix="works") as pool:
        return [done.result() for done in [pool.submit(work) for work in works]]
