"""One file for each trace mode: `find(view, options)` returns a TraceResult."""
