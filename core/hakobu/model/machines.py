"""Machines: what cuts, scores or draws. The profiles that ship stand in machines/ as data."""

from __future__ import annotations

from dataclasses import dataclass

from .declare import angle, choice, count, flag, length, number, text
from .materials import MOST_NAME, MOST_SHEET_MM

TOOLS = ("knife", "pen", "laser")
#: What the material lies on, and by which edge it goes in.
CARRIERS = (("mat", "a mat"), ("bed", "a bed"), ("roll", "a roll"))
#: Marks that are printed for a machine to find a print again.
MARKS = (("none", "no marks"), ("corners", "corners"), ("circles", "circles"), ("crosses", "crosses"))
#: Where the machine's coordinates begin; and how its axes lie, as seen with the sheet's foot before one.
ORIGINS = (("corner", "the lower left corner"), ("centre", "the centre of the reach"))
LEADS = (("line", "straight"), ("arc", "as an arc"))
#: Climb: what is kept lies left of the tool's way and waste right of it; conventional: the other way
#: (common practice).
DIRECTIONS = (("drawn", "as drawn"), ("climb", "climb"), ("conventional", "conventional"))
STARTS = (("drawn", "as drawn"), ("near", "near where the tool is"), ("smooth", "away from corners"))
ORDERS = (("short", "short ways"), ("cool", "far from what is hot"), ("layers", "as drawn, layer by layer"))
BEAMS = (("constant", "as told all the time"), ("speed", "less where it is slow"))
#: What files count in: mm or inches, and a plotter's steps of 1/40 or 1/100 mm.
UNITS = (("mm", "mm"), ("in", "inches"))
STEPS = (("40", "0.025 mm"), ("100", "0.01 mm"))
#: Letters of the words before and after a job.
MOST_WORDS = 400

EDGES = (("top", "the top edge"), ("bottom", "the bottom edge"), ("left", "the left edge"), ("right", "the right edge"))


@dataclass(frozen=True, slots=True)
class Machine:
    """reach: the width and height the tool can get to. format: the id of the files it takes. chord_mm: how far a
    straight stroke may leave a curve. pens: how many tools it can be told to change between. speed, force: what its
    files ask for, where they are to: in mm a second, and grams on the blade. tool: knife, pen or laser. kerf_mm: the
    width that it takes away, or draws. finest_mm: an outline smaller across than this comes out as a spot: a dragged
    blade cannot turn in it, a kerf eats it. carrier: what the material lies on; carrier_width, carrier_height: its
    size, which without them is the reach; reach_left, reach_top: where on it the reach begins; grid_mm: of the lines
    that are printed on it; goes_in: the edge that goes in first. marks: what it finds a print by; mark_mm: their size,
    mark_inset_mm: how far they stand from the rim of the sheet, mark_count: in how many corners."""

    id: str = text(label="id", help="by which jobs name it", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    reach_width_mm: float = length(label="reach, across", help="how far its tool gets", low=1.0, high=MOST_SHEET_MM)
    reach_height_mm: float = length(label="reach, down", help="how far its tool gets", low=1.0, high=MOST_SHEET_MM)
    format: str = text(label="format", help="of the files that it takes, by its id", most=20)
    chord_mm: float = length(label="chord", help="how far a stroke may leave a curve", low=0.001, high=0.1)
    pens: int = count(label="pens", help="tools it can change between", low=1, high=99)
    speed_mm_s: float | None = number(None, label="speed", help="in mm a second", unit="mm/s", low=0.1, high=5000.0)
    force_g: float | None = number(None, label="force", help="in grams", unit="g", low=1.0, high=10_000.0)
    tool: str = choice("knife", label="tool", help="what runs along the lines", choices=[(t, t) for t in TOOLS])
    kerf_mm: float = length(0.0, label="kerf", help="the width that it takes away, or draws", high=10.0)
    finest_mm: float = length(0.5, label="finest outline", help="a smaller one comes out as a spot", high=50.0)
    carrier: str = choice("mat", label="carrier", help="what the material lies on", choices=CARRIERS)
    carrier_width_mm: float = length(0.0, label="carrier, across", help="0: as wide as the reach", high=MOST_SHEET_MM)
    carrier_height_mm: float = length(0.0, label="carrier, down", help="0: as high as the reach", high=MOST_SHEET_MM)
    reach_left_mm: float = length(0.0, label="reach begins, across", help="from the carrier's left", high=1000.0)
    reach_top_mm: float = length(0.0, label="reach begins, down", help="from the carrier's top", high=1000.0)
    grid_mm: float = length(10.0, label="grid", help="between the lines on the carrier", low=1.0, high=500.0)
    goes_in: str = choice("top", label="goes in by", help="the edge that goes in first", choices=EDGES)

    marks: str = choice("none", label="marks", help="what it finds a print by", choices=MARKS)
    mark_mm: float = length(10.0, label="size of a mark", help="across", low=1.0, high=100.0)
    mark_inset_mm: float = length(10.0, label="marks from the rim", help="of the sheet", high=200.0)
    mark_count: int = count(3, label="number of marks", help="in so many corners", low=3, high=4)

    tangential: bool = flag(False, label="turned knife", help="the machine turns its knife along the line")
    blade_offset_mm: float = length(0.0, label="blade offset", help="of its tip behind its axis; 0: none", high=10.0)
    swivel_angle_deg: float = angle(20.0, label="turned at corners above", help="by an arc", low=0.0, high=180.0)
    lift_angle_deg: float = angle(180.0, label="lifted at corners above", help="to turn", low=0.0, high=180.0)
    overcut_mm: float = length(0.0, label="overcut", help="past the start of a closed line", high=50.0)
    lead_in_mm: float = length(0.0, label="lead-in", help="from the waste to the line", high=50.0)
    lead_out_mm: float = length(0.0, label="lead-out", help="from the line to the waste", high=50.0)
    lead: str = choice("line", label="leads", help="how they come to the line", choices=LEADS)
    tabs: int = count(0, label="tabs", help="on each outline that is cut", low=0, high=100)
    tab_mm: float = length(0.5, label="length of a tab", help="what is left between two cuts", low=0.05, high=50.0)
    perforate_mm: float = length(0.0, label="perforation", help="each cut of a scored line; 0: it is whole", high=100.0)
    perforate_gap_mm: float = length(2.0, label="gaps of a perforation", help="between cuts", low=0.05, high=100.0)
    passes: int = count(1, label="passes", help="how often each cut is run", low=1, high=50)
    pass_depth_mm: float = length(0.0, label="depth of a pass", help="how much deeper each goes", high=20.0)
    pass_force_g: float = number(0.0, label="force of a pass", help="more in each", unit="g", low=-1e4, high=1e4)
    pass_power_percent: float = number(0.0, label="power of a pass", help="more in each", unit="%", low=-100, high=100)
    dwell_s: float = number(0.0, label="dwell", help="before each run, in s", unit="s", low=0.0, high=60.0)
    corner_percent: float = number(100.0, label="speed at corners", help="of the speed", unit="%", low=1.0, high=100.0)
    corner_angle_deg: float = angle(45.0, label="slow at corners above", help="they turn more", low=1.0, high=180.0)
    corner_mm: float = length(1.0, label="slow for", help="before and behind a corner", low=0.05, high=50.0)
    direction: str = choice("drawn", label="direction", help="of closed cuts", choices=DIRECTIONS)
    start: str = choice("drawn", label="starts", help="of closed lines", choices=STARTS)
    order: str = choice("short", label="order", help="of runs; inside before outside", choices=ORDERS)
    power_percent: float = number(100.0, label="power", help="of a laser", unit="%", low=0.0, high=100.0)
    beam: str = choice("constant", label="beam", help="how a laser's power is kept", choices=BEAMS)
    z_up_mm: float = number(5.0, label="height, up", help="between runs", unit="mm", low=-500.0, high=500.0)
    z_down_mm: float = number(-0.5, label="height, down", help="in a run", unit="mm", low=-500.0, high=500.0)
    z_swivel_mm: float = number(0.0, label="height, turning", help="at corners", unit="mm", low=-500.0, high=500.0)
    travel_speed_mm_s: float | None = number(None, label="travel", help="between runs", unit="mm/s", low=0.1, high=5e3)
    acceleration_mm_s2: float = number(1000.0, label="acceleration", help="of axes", unit="mm/s2", low=1.0, high=1e5)
    lift_s: float = number(0.05, label="lift or fall", help="how long it takes", unit="s", low=0.0, high=60.0)
    change_s: float = number(20.0, label="change of tool", help="how long it takes", unit="s", low=0.0, high=3600.0)
    least_speed_mm_s: float = number(0.1, label="slowest", help="that it can go", unit="mm/s", low=0.1, high=5000.0)
    most_speed_mm_s: float = number(5000.0, label="fastest", help="that it can go", unit="mm/s", low=0.1, high=5000.0)
    origin: str = choice("corner", label="origin", help="of its coordinates", choices=ORIGINS)
    mirror_x: bool = flag(False, label="x runs to the left", help="its axis is mirrored")
    mirror_y: bool = flag(False, label="y runs down", help="its axis is mirrored")
    swap_axes: bool = flag(False, label="x and y changed", help="its axes are swapped")
    unit: str = choice("mm", label="unit", help="of G-code", choices=UNITS)
    steps: str = choice("40", label="steps", help="of HP-GL", choices=STEPS)
    arcs: bool = flag(False, label="knows arcs", help="of HP-GL: AA")
    address: str = text("", label="address", help="tcp:10.0.0.7:9100, serial:/dev/ttyUSB0,9600, folder:NAME", most=200)
    words_before: str = text("", label="words before", help="of a job, parted by |", most=MOST_WORDS)
    words_after: str = text("", label="words after", help="of a job, parted by |", most=MOST_WORDS)

    def force_at(self, nth_pass: int) -> float | None:
        """In grams, in a pass from 1."""
        return None if self.force_g is None else self.force_g + (nth_pass - 1) * self.pass_force_g

    def power_at(self, nth_pass: int) -> float:
        """In percent, in a pass from 1."""
        return self.power_percent + (nth_pass - 1) * self.pass_power_percent

    @property
    def cut_kerf_mm(self) -> float:
        """The width that a cut takes away; a pen takes none."""
        return 0.0 if self.tool == "pen" else self.kerf_mm

    @property
    def drags(self) -> bool:
        """Whether the tip of its blade follows its axis at a distance."""
        return self.tool == "knife" and self.blade_offset_mm > 0 and not self.tangential

    @property
    def carrier_mm(self) -> tuple[float, float]:
        """Width and height of what the material lies on."""
        return self.carrier_width_mm or self.reach_width_mm, self.carrier_height_mm or self.reach_height_mm
