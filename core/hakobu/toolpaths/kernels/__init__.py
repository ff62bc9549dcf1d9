"""Kernels of tool paths."""
