"""Centre lines: skeleton, branches, widths, strokes, solid areas."""
