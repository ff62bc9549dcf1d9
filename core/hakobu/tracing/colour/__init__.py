"""Colour segmentation: palette, labels, halos, planar map, layers."""
