"""Kernels of skeletons and of profiles across strokes."""
