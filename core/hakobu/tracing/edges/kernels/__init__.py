"""Kernels on pixels and edge points."""
