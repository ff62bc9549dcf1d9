"""Hakobu's computation: values in, values out; no interface, network or database code."""

__version__ = "0.1.0"
