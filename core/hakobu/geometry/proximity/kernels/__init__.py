"""Kernels of distance and neighbour queries."""
