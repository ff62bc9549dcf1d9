"""Lettering: faces, and text as outlines that are ready to be cut."""
