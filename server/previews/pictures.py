"""Decoded pictures at hand: the last few, within a number of bytes, each decoded once however many ask for it."""

from __future__ import annotations

import threading
from collections import OrderedDict
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from hakobu import pipeline
from hakobu.tracing import View
from hakobu.tracing.edges.greyscale import halved, luma_over_white
from hakobu.tracing.prepare.preparation import Preparing, prepared
from jobs.models import Source

MOST_BYTES = 768 * 2**20
#: Pixels that a coarse preview is worked out on at most.
COARSE_PX = 1_300_000
#: Ways a picture was made ready that are kept.
MOST_VIEWS = 4
PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


@dataclass
class Grey:
    """A picture's luma over white, whole, and halved so many times that it is coarse; and its colours."""

    whole: np.ndarray
    coarse: np.ndarray
    halvings: int
    rgba: np.ndarray
    views: OrderedDict[Any, View] = field(default_factory=OrderedDict)
    lock: threading.Lock = field(default_factory=threading.Lock)

    @property
    def size(self) -> int:
        own = self.whole.nbytes + self.rgba.nbytes + (self.coarse.nbytes if self.halvings else 0)
        # A view keeps its pixels, and about as much again twice of what was found out of them.
        return own + sum(3 * view.rgba.nbytes for view in list(self.views.values()))

    @property
    def factor(self) -> int:
        """How many pixels of the picture, along each side, make one of the coarse one."""
        return 2**self.halvings

    def view(self, how: Preparing, coarse: bool) -> View:
        """The picture made ready, in pixels; the last few are kept, with what was found out of each."""
        coarse = coarse and self.halvings > 0
        with self.lock:
            key = how, coarse
            if key not in self.views:
                self.views[key] = self._prepared(how, coarse)
                while len(self.views) > MOST_VIEWS:
                    self.views.popitem(last=False)
            self.views.move_to_end(key)
            return self.views[key]

    def _prepared(self, how: Preparing, coarse: bool) -> View:
        pixels = View(self.colours(coarse), PIXELS)
        pixels.cache["grey"] = self.coarse if coarse else self.whole
        if coarse:
            how = replace(how, crop=tuple((x // self.factor, y // self.factor) for x, y in how.crop))
        return prepared(pixels, how)

    def colours(self, coarse: bool) -> np.ndarray:
        """(H, W, 4) uint8, whole or as few pixels as the coarse grey has, each the mean of those it stands for."""
        if not coarse or not self.halvings:
            return self.rgba
        import cv2

        height, width = self.coarse.shape
        step = 2**self.halvings
        even = self.rgba[: height * step, : width * step]
        return cv2.resize(even, (width, height), interpolation=cv2.INTER_AREA)


@dataclass
class _Pictures:
    _kept: OrderedDict[str, Grey] = field(default_factory=OrderedDict)
    _locks: dict[str, threading.Lock] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def grey(self, source: Source) -> Grey:
        """The grey picture of a source; raises what decoding raises."""
        key = source.blob_id
        with self._lock:
            own = self._locks.setdefault(key, threading.Lock())
        with own:
            with self._lock:
                if key in self._kept:
                    self._kept.move_to_end(key)
                    return self._kept[key]
            made = _decoded(source)
            with self._lock:
                self._kept[key] = made
                while len(self._kept) > 1 and sum(grey.size for grey in self._kept.values()) > MOST_BYTES:
                    gone, _ = self._kept.popitem(last=False)
                    self._locks.pop(gone, None)
            return made


def _decoded(source: Source) -> Grey:
    rgba = pipeline.picture(source.name, bytes(source.blob.data))
    whole = luma_over_white(rgba)
    times = 0
    while whole.size / 4**times > COARSE_PX:
        times += 1
    return Grey(whole, halved(whole, times) if times else whole, times, rgba)


PICTURES = _Pictures()
