"""Corners of traced outlines: sharp, chamfered, cusps, ends of lines, junctions."""
