"""Files sent to a machine: stroke by stroke with flow control, taken up again where the line was lost.

What goes over the line is the business of whoever opens it: here it is only written to and read from.
"""

from .gcode import GcodeSender
from .hpgl import HpglSender
from .line import Forgotten, Halt, Line, LineLost, Sender

SENDERS = {"hpgl": HpglSender, "gcode": GcodeSender}

__all__ = ["SENDERS", "Forgotten", "GcodeSender", "Halt", "HpglSender", "Line", "LineLost", "Sender"]
