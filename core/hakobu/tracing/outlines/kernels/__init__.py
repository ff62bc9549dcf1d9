"""Kernels that prepare outlines for fitting."""
