"""Assessment of an image before tracing: measurements, kind, proposals."""
