"""start-points: where closed outlines begin, set by the person."""

from .outline_places import places_step

OPERATION = places_step("start-points", "Start points", "Begin outlines at these places", "starts", "start")
