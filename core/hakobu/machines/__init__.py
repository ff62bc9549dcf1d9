"""PROFILES: the machines that ship, as data. Reach, pens, speed and force are common practice for their kind."""

from __future__ import annotations

from ..formats import WriteOptions
from ..model import Machine

PROFILES: tuple[Machine, ...] = (
    Machine(
        "desk-cutter",
        "desk cutter",
        300.0,
        600.0,
        format="hpgl",
        chord_mm=0.007,
        pens=1,
        carrier_width_mm=330.0,
        carrier_height_mm=640.0,
        reach_left_mm=15.0,
        reach_top_mm=20.0,
        marks="corners",
    ),
    Machine(
        "roll-cutter",
        "roll cutter",
        600.0,
        2000.0,
        format="hpgl",
        chord_mm=0.007,
        pens=8,
        speed_mm_s=300,
        force_g=80,
        carrier="roll",
    ),
    Machine("pen-plotter", "pen plotter", 420.0, 297.0, "hpgl", 0.007, 8, tool="pen", kerf_mm=0.35, finest_mm=0.7),
    Machine(
        "laser-bed",
        "laser",
        600.0,
        400.0,
        "gcode",
        0.01,
        1,
        tool="laser",
        kerf_mm=0.15,
        finest_mm=0.4,
        carrier="bed",
        grid_mm=50.0,
        goes_in="bottom",
    ),
)


def options_for(machine: Machine | None, title: str = "", format_id: str | None = None) -> WriteOptions:
    """How files for a machine are written; of another format, or for none, as any are."""
    if machine is None or format_id not in (None, machine.format):
        return WriteOptions(title=title)
    return WriteOptions(
        chord_mm=machine.chord_mm,
        title=title,
        speed_mm_s=machine.speed_mm_s,
        force_g=machine.force_g,
        tool=machine.tool,
    )
