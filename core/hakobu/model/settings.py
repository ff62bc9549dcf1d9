"""Settings: what a machine does otherwise on a material."""

from __future__ import annotations

from dataclasses import dataclass, replace

from .declare import count, length, number, text
from .machines import Machine
from .materials import MOST_NAME


@dataclass(frozen=True, slots=True)
class Setting:
    """machine, material: their ids. The others are as in Machine; what has no value is as the machine has it."""

    id: str = text(label="id", help="by which it is named", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    machine: str = text(label="machine", help="by its id", most=40)
    material: str = text(label="material", help="by its id", most=40)
    speed_mm_s: float | None = number(None, label="speed", help="in mm a second", unit="mm/s", low=0.1, high=5000.0)
    force_g: float | None = number(None, label="force", help="in grams", unit="g", low=1.0, high=10_000.0)
    power_percent: float | None = number(None, label="power", help="of a laser", unit="%", low=0.0, high=100.0)
    kerf_mm: float | None = length(None, label="kerf", help="the width that it takes away", high=10.0)
    overcut_mm: float | None = length(None, label="overcut", help="past the start of a closed line", high=50.0)
    passes: int | None = count(None, label="passes", help="how often each cut is run", low=1, high=50)
    pass_depth_mm: float | None = length(None, label="depth of a pass", help="how much deeper each goes", high=20.0)
    pass_force_g: float | None = number(
        None, label="force of a pass", help="more in each", unit="g", low=-1e4, high=1e4
    )
    pass_power_percent: float | None = number(
        None, label="power of a pass", help="more in each", unit="%", low=-100, high=100
    )

    def of(self, machine: Machine) -> Machine:
        """The machine with what this changes."""
        values = {name: value for name in CHANGED if (value := getattr(self, name)) is not None}
        return replace(machine, **values) if values else machine


#: What a setting may change of a machine.
CHANGED = ("speed_mm_s", "force_g", "power_percent", "kerf_mm", "overcut_mm", "passes", "pass_depth_mm",
           "pass_force_g", "pass_power_percent")  # fmt: skip
#: What ships: made up for the machines and materials that ship, within what is common practice.
SETTINGS: tuple[Setting, ...] = (
    Setting("desk-card", "card on the desk cutter", "desk-cutter", "black-card", 100.0, 180.0, passes=2),
    Setting("desk-vinyl", "vinyl on the desk cutter", "desk-cutter", "adhesive-vinyl", 200.0, 80.0),
    Setting("laser-wood", "thin wood on the laser", "laser-bed", "thin-wood", 12.0, None, 80.0, 0.2),
    Setting("laser-card", "card on the laser", "laser-bed", "black-card", 40.0, None, 25.0, 0.12),
)
