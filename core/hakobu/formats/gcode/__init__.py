"""G-code: straight moves and arcs for a tool that is lowered, or a laser that is switched.

Source: Kramer, Proctor, Messina 2000, "The NIST RS274NGC Interpreter, Version 3" (NISTIR 6556).
"""

from __future__ import annotations

import re

from ..format import Format, later

#: "power" switches a beam on and off, "height" lowers and lifts a tool.
RELEASES = ("power", "height")

_WORDS = re.compile(rb"^(?:\s|%|\([^)]*\)|;[^\n]*\n|/)*(?:N\d+\s*)?(?:[GMTFS]\s*\d|O\d|[XYZ]\s*[-+.\d])", re.I)

FORMAT = Format(
    id="gcode",
    name="G-code",
    suffixes=(".gcode", ".nc", ".ngc", ".tap", ".cnc"),
    media_type="text/x-gcode",
    looks_like=lambda data: bool(_WORDS.match(data[:20_000])) and b"\0" not in data[:4096],
    read=later(f"{__name__}.reader", "read"),
    write=later(f"{__name__}.writer", "write"),
    write_program=later(f"{__name__}.writer", "write_program"),
    # Four decimals of a millimetre, and arcs within the chord tolerance.
    precision_mm=0.01,
    is_machine=True,
    releases=RELEASES,
)
