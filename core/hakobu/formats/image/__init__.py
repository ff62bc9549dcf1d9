"""Pictures: they come in as a picture on the page at their stated size.

Sources: the PNG specification (W3C), JPEG File Interchange Format (ECMA TR/98), Exif 2.32 for orientation and
resolution, TIFF 6.0, GIF 89a, the WebP container (RFC 9649), and the bitmap headers of Windows (BITMAPINFOHEADER).
"""

from __future__ import annotations

from ..format import Format, later


def _picture(identity: str, name: str, suffixes: tuple[str, ...], looks_like) -> Format:
    return Format(identity, name, suffixes, f"image/{identity}", looks_like, read=later(f"{__name__}.reader", "read"))


FORMATS = (
    _picture("png", "PNG", (".png",), lambda data: data[:8] == b"\x89PNG\r\n\x1a\n"),
    _picture("jpeg", "JPEG", (".jpg", ".jpeg"), lambda data: data[:3] == b"\xff\xd8\xff"),
    _picture("tiff", "TIFF", (".tif", ".tiff"), lambda data: data[:4] in (b"II*\0", b"MM\0*")),
    _picture("gif", "GIF", (".gif",), lambda data: data[:6] in (b"GIF87a", b"GIF89a")),
    _picture("webp", "WebP", (".webp",), lambda data: data[:4] == b"RIFF" and data[8:12] == b"WEBP"),
    _picture("bmp", "BMP", (".bmp",), lambda data: data[:2] == b"BM" and len(data) > 26),
)
