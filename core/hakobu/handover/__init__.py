"""Pages that go along with the files: how the pieces of a design belong together."""

from .assembly import assembly_page
from .bleed import with_bleed
from .placing import placing_page
from .print_page import print_page

__all__ = ["assembly_page", "placing_page", "print_page", "with_bleed"]
