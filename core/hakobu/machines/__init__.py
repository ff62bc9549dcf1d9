"""PROFILES: the machines that ship, as data. Reach, pens, speed and force are common practice for their kind."""

from __future__ import annotations

from ..formats import WriteOptions
from ..model import Machine
from ..toolpaths import Plan

PROFILES: tuple[Machine, ...] = (
    # Its own control turns the blade, so that its files have the lines as they are.
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
        acceleration_mm_s2=2000.0,
        travel_speed_mm_s=300.0,
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
        blade_offset_mm=0.25,
        overcut_mm=0.5,
        acceleration_mm_s2=4000.0,
        travel_speed_mm_s=600.0,
        change_s=2.0,
        address="stand-in:knife",
    ),
    Machine(
        "pen-plotter",
        "pen plotter",
        420.0,
        297.0,
        "hpgl",
        0.007,
        8,
        tool="pen",
        kerf_mm=0.35,
        finest_mm=0.7,
        arcs=True,
        travel_speed_mm_s=400.0,
        acceleration_mm_s2=4000.0,
        change_s=3.0,
    ),
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
        lift_s=0.01,
        address="stand-in:laser",
        travel_speed_mm_s=300.0,
        acceleration_mm_s2=3000.0,
    ),
    Machine(
        "flatbed-knife",
        "flatbed knife",
        1200.0,
        800.0,
        "gcode",
        0.007,
        2,
        speed_mm_s=150.0,
        tool="knife",
        finest_mm=2.0,
        carrier="bed",
        grid_mm=50.0,
        goes_in="bottom",
        tangential=True,
        lift_angle_deg=30.0,
        overcut_mm=0.5,
        z_up_mm=8.0,
        z_down_mm=-1.0,
        z_swivel_mm=2.0,
        lift_s=0.2,
        travel_speed_mm_s=400.0,
    ),
    Machine(
        "pen-gantry",
        "pen on a gantry",
        300.0,
        200.0,
        "gcode",
        0.007,
        1,
        speed_mm_s=60.0,
        tool="pen",
        kerf_mm=0.5,
        finest_mm=1.0,
        carrier="bed",
        goes_in="bottom",
        z_up_mm=2.0,
        z_down_mm=-0.2,
        lift_s=0.15,
        travel_speed_mm_s=120.0,
        acceleration_mm_s2=800.0,
    ),
)


def options_for(
    machine: Machine | None, title: str = "", format_id: str | None = None, plan: Plan | None = None
) -> WriteOptions:
    """How files for a machine are written; of another format, or for none, as any are: then nothing is compensated."""
    if machine is None or format_id not in (None, machine.format):
        return WriteOptions(title=title)
    return WriteOptions(chord_mm=machine.chord_mm, title=title, plan=plan or Plan(machine))
