"""PDF: outlines at true size, to print or to hand on. Source: ISO 32000-1, sections 8.4 and 8.5."""

from __future__ import annotations

from ..format import Format, later

FORMAT = Format(
    id="pdf",
    name="PDF",
    suffixes=(".pdf",),
    media_type="application/pdf",
    looks_like=lambda data: b"%PDF-" in data[:1024],
    write=later(f"{__name__}.writer", "write"),
)
