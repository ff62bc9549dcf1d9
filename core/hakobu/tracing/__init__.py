"""Pictures to lines."""
