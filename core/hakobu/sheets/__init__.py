"""Sheets: placing and packing pieces on the material that they are cut from, and what is reported of each sheet."""
