"""A stand-in for machines: a plotter that speaks HP-GL and a controller that speaks G-code, on loopback TCP.

It is written from the published references and shares no code with the programs that write for machines.
"""
