"""HP-GL, the plotter language: pens, straight strokes and arcs on a grid of 0.025 mm.

Source: the HP-GL/2 and HP RTL reference guide: plotter units of 0.025 mm (1016 an inch), y up, two-letter mnemonics.
"""

from __future__ import annotations

import re

from ...model import Machine
from ..format import Format, later
from .scanning import ESCAPE

RELEASES = ("HP-GL", "HP-GL/2")
UNITS_PER_MM = 40


def steps_per_mm(machine: Machine | None) -> int:
    """What a machine's files count in: the plotter units of the reference, unless it has others."""
    return int(machine.steps) if machine else UNITS_PER_MM


_START = re.compile(
    rb"^[\s;]*(?:" + ESCAPE.encode() + rb"[\s;]*)*(?:IN|DF|SP|PU|PD|PA|PR|IP|SC|VS|PG|RO|BP|PE)[\s\d;,.+-]", re.I
)

FORMAT = Format(
    id="hpgl",
    name="HP-GL",
    suffixes=(".hpgl", ".plt", ".hpg"),
    media_type="application/vnd.hp-hpgl",
    looks_like=lambda data: bool(_START.match(data[:400])),
    read=later(f"{__name__}.reader", "read"),
    write=later(f"{__name__}.writer", "write"),
    write_program=later(f"{__name__}.writer", "write_program"),
    # Half the diagonal of the grid (0.0177 mm) and the chord tolerance (0.007 mm) together.
    precision_mm=0.025,
    is_machine=True,
    releases=RELEASES,
)
