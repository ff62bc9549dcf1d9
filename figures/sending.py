"""Sending: estimates beside the stand-in's own time, streaming beside its own speed, and kills at random moments."""

from __future__ import annotations

import json
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path as File

import numpy as np
from shapes import blobs

sys.path.append(str(File(__file__).resolve().parents[1]))

from hakobu import pipeline
from hakobu.formats import by_id
from hakobu.geometry import primitives, transform, translation
from hakobu.machines import PROFILES, options_for
from hakobu.machines.sending import SENDERS, Halt, LineLost
from hakobu.model import Document, Layer, Machine, Page, Piece
from hakobu.toolpaths import Plan, estimate, make
from simulator.machine import Build
from simulator.tests.running import Heard, Running, Tcp, going_on

DEMO = File(__file__).resolve().parents[1] / "demo" / "files"
#: Designs whose time is reckoned, for two machines each.
NAMES = ("van-title.svg", "stencil-moon.svg", "lantern-frame.svg", "tree-bought.svg", "capital-h.svg")
NAMES += ("letter-bought.svg", "name-frame.svg", "heron-silhouette.svg", "window-branch.svg", "lamp-plate.dxf")
STROKES, PACE, PORTS = 20_000, 30.0, (18791, 18792, 18793)
#: How many times faster than a real one a machine works whose time is compared: it is never waited for.
REAL = 60.0
#: And how long it works at least, in seconds: it is never idle for want of words.
LEAST_S = 4.0
KILLS = 100


def sending() -> Iterator[str]:
    off = [share for machine in (_knife(), _laser()) for share in _estimates(machine)]
    mean, most = 100 * np.mean(np.abs(off)), 100 * max(map(abs, off))
    said = f"Time reckoned beside the stand-in's own, {len(off)} files"
    yield f"{said}: {mean:.2f} % off in the mean, {most:.2f} % at most."
    yield _streamed()
    for kind in SENDERS:
        yield _killed(kind)


def _knife() -> Machine:
    of = next(each for each in PROFILES if each.id == "roll-cutter")
    return replace(of, reach_width_mm=2000.0, speed_mm_s=120.0)


def _laser() -> Machine:
    of = next(each for each in PROFILES if each.id == "laser-bed")
    return replace(of, reach_width_mm=2000.0, reach_height_mm=2000.0, speed_mm_s=40.0)


def _build(machine: Machine, pace: float) -> Build:
    travel = machine.travel_speed_mm_s or 100.0
    return Build(
        machine.reach_width_mm, machine.reach_height_mm, machine.acceleration_mm_s2, machine.speed_mm_s or 20.0, travel,
        machine.lift_s, pace,
    )  # fmt: skip


def _estimates(machine: Machine) -> Iterator[float]:
    """By how much each estimate differs from what the stand-in takes."""
    for name in NAMES:
        design = pipeline.read(name, (DEMO / name).read_bytes()).document
        design = _within(design)
        made = make(design, Plan(machine))
        data = pipeline.write(design, machine.format, options=options_for(machine)).data
        reckoned = estimate(made.program)
        seconds = reckoned.seconds - reckoned.changes * machine.change_s
        pace = min(REAL, seconds / LEAST_S)
        running = Running(machine.format, _build(machine, pace), capacity=8192)
        line = running.line()
        SENDERS[machine.format](data, 1).send(line, False, going_on)
        took = running.ask()["clock"]
        line.close()
        running.stop()
        yield seconds / took - 1


def _within(design: Document) -> Document:
    """A design away from the rim, so that no lead or blade goes beyond the reach."""
    pieces = tuple(replace(p, path=transform(p.path, translation(20, 20))) for p in design.pieces)
    width, height = design.frame
    return replace(design, pieces=pieces, page=Page(width + 60, height + 60))


def _streamed() -> str:
    """Many strokes over a line with flow control, beside the time that the machine itself needs for them."""
    rows = np.arange(STROKES)
    places = np.round(np.column_stack([rows % 300, rows // 300]) * 1.9 * 40).astype(int)
    text = ["IN;PA;SP1;VS30;"]
    text += [f"PU{a},{b};PD{a + 60},{b},{a + 60},{b + 60},{a},{b + 60};" for a, b in places.tolist()]
    data = ("\n".join(text) + "\nPU;SP0;IN;\n").encode()
    root = File(__file__).resolve().parents[1]
    words = [sys.executable, "-m", "simulator", "--ports", *map(str, PORTS), "--pace", f"{PACE:g}"]
    with subprocess.Popen(words, cwd=root, stdout=subprocess.PIPE) as machine:
        assert machine.stdout
        machine.stdout.readline()
        line = Tcp(PORTS[0])
        begun = time.perf_counter()
        SENDERS["hpgl"](data, 1).send(line, False, going_on)
        took = time.perf_counter() - begun
        line.close()
        watch = Tcp(PORTS[2])
        watch.write(b'{"machine": "knife"}\n')
        state = json.loads(watch.read(5.0))
        watch.close()
        machine.terminate()
    own = state["clock"] / PACE
    return (
        f"{state['strokes']:,} strokes streamed at {PACE:g} times a plotter's pace: {took:.0f} s, its own time "
        f"{own:.0f} s, {100 * own / took:.0f} % of its speed."
    )


def _killed(kind: str) -> str:
    """A line that is cut off after random amounts, and a sender that knows nothing of the one before."""
    random, lost, off, jobs = np.random.default_rng(5), 0, 0.0, 0
    machine = replace(_knife() if kind == "hpgl" else _laser(), speed_mm_s=80.0)
    shapes = [primitives.rectangle(20 + 25 * k, 30, 18, 18) for k in range(4)]
    shapes += [transform(blobs(1, 20, 40.0), translation(60, 90)), primitives.circle(150, 110, 25)]
    pieces = tuple(Piece(f"p{n}", path, "a") for n, path in enumerate(shapes))
    design = Document(Page(300.0, 200.0), (Layer("a", "A", "#000000"),), pieces)
    data = by_id(kind).write_program(make(design, Plan(machine)).program, options_for(machine)).data
    whole = _length(Running(kind, _build(machine, 0.0)), kind, data)
    running = Running(kind, _build(machine, 40.0))
    while lost < KILLS:
        running.ask(clear=True)
        jobs, heard = jobs + 1, Heard()
        while True:
            line = Tcp(running.port, int(random.integers(30, 900)))
            try:
                SENDERS[kind](data, jobs).send(line, heard.begun, heard)
                break
            except LineLost:
                lost += 1
                time.sleep(0.02)
            finally:
                line.close()
        off = max(off, abs(_cut(running) - whole))
    running.stop()
    said = f"{by_id(kind).name}: {lost} kills in {jobs} jobs, all end"
    return f"{said}; the line cut differs by {off:.3f} of {whole:.0f} mm at most."


def _length(running: Running, kind: str, data: bytes) -> float:
    line = running.line()
    SENDERS[kind](data, 1).send(line, False, lambda _: Halt.NO)
    line.close()
    made = _cut(running)
    running.stop()
    return made


def _cut(running: Running) -> float:
    strokes = running.ask(strokes=True)["strokes"]
    lines = [np.array(points) for _, _, points, _, _ in strokes if len(points) > 1]
    return float(sum(np.hypot(*np.diff(line, axis=0).T).sum() for line in lines))
