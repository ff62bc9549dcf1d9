"""Kernels of colour segmentation."""
