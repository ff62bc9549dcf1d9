"""Outlines of thresholded regions, ready to be fitted, without self-intersections."""
