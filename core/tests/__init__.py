"""Tests of the core. Random cases are the same in every usual run; HAKOBU_LONG asks for fresh ones and many more."""

import os

from hypothesis import settings

LONG = bool(os.environ.get("HAKOBU_LONG"))

settings.register_profile("usual", derandomize=True, deadline=None)
settings.register_profile("long", derandomize=False, deadline=None)
settings.load_profile("long" if LONG else "usual")
