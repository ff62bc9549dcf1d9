"""Words of a machine's own, before and after a job; and those that would contradict what is written."""

from __future__ import annotations

import re

from ..errors import BadRequest
from ..model import Machine

#: Words that would change what the numbers of a file mean, or move the tool, by the format.
CONTRADICTING = {
    "gcode": (
        re.compile(r"\bG0*(?:20|21|90|91|90\.1|91\.1|92|9[0-9]\.[0-9]|0|1|2|3|5[4-9]|68)(?![\d.])", re.I),
        "G-code",
    ),
    "hpgl": (re.compile(r"(?:SC|RO|IP|IW|IR|PR|PD|DF|IN)(?=[\s\d;,+-]|$)", re.I), "HP-GL"),
}
_BEAM = re.compile(r"\bM0*[34](?!\d)", re.I)


def words_of(machine: Machine | None, format_id: str) -> tuple[list[str], list[str]]:
    """The lines before and after a job. Raises BadRequest, naming the word, where one would change what the file says:
    units, places, motion; or would switch on a beam for a knife or a pen."""
    if machine is None:
        return [], []
    made = []
    for name, text in (("words before", machine.words_before), ("words after", machine.words_after)):
        lines = [line.strip() for line in text.replace("\n", "|").split("|") if line.strip()]
        for line in lines:
            _check(machine, name, line, format_id)
        made.append(lines)
    return made[0], made[1]


def _check(machine: Machine, name: str, line: str, format_id: str) -> None:
    of = f'Of the machine "{machine.name}" the {name} hold'
    if not line.isascii() or not line.isprintable():
        raise BadRequest(f'{of} "{line}", which has letters that its files cannot have: use plain letters and digits.')
    pattern, called = CONTRADICTING[format_id]
    found = pattern.search(line)
    if found:
        raise BadRequest(f'{of} "{found[0]}", which would change what the {called} after it means: take it out.')
    if machine.tool != "laser" and format_id == "gcode" and (beam := _BEAM.search(line)):
        raise BadRequest(f'{of} "{beam[0]}", which switches on a beam, and its tool is a {machine.tool}: take it out.')
