"""PROFILES: the machines that ship, as data. Reach and pens are common practice for their kind."""

from __future__ import annotations

from ..model import Machine
from ..model.errors import BadRequest

PROFILES: tuple[Machine, ...] = (
    Machine("desk-cutter", "desk cutter", 300.0, 600.0, format="hpgl", chord_mm=0.007, pens=1),
    Machine("roll-cutter", "roll cutter", 600.0, 2000.0, format="hpgl", chord_mm=0.007, pens=8),
)


def machine_of(identity: str) -> Machine:
    for machine in PROFILES:
        if machine.id == identity:
            return machine
    known = ", ".join(machine.id for machine in PROFILES)
    raise BadRequest(f'"{identity}" is not a machine that is known here: use one of {known}.')
