"""Kernels that locate and classify corners."""
