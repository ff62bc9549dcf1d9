"""Kernels on curves: compiled ahead of time."""
