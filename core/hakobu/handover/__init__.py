"""Pages that go along with the files: how the pieces of a design belong together."""

from .assembly import assembly_page

__all__ = ["assembly_page"]
