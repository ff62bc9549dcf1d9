"""Sub-pixel edges: greyscale, thresholds, runs, edge positions, straight runs, smoothing."""
