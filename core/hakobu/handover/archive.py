"""An archive that explains itself: the same work gives the same bytes."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping

#: Every file has this time: the hour at which something is handed over is none of its content.
TIME = (1980, 1, 1, 0, 0, 0)


def archive_of(files: Mapping[str, bytes]) -> bytes:
    """A ZIP archive of files by their names, in the order of these."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:
        for name in sorted(files):
            entry = zipfile.ZipInfo(name, TIME)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            entry.create_system = 3
            archive.writestr(entry, files[name])
    return out.getvalue()
