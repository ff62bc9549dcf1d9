"""The target size of a sizing step, and the factor from any version of the design to it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import BadRequest
from ..model import Document, Step
from ..model.dimension import Dimension
from ..model.features import feature_at, measured
from .resize import Resize, factors_by_features, factors_for, wanted_features
from .scaled import scaled_place


@dataclass(frozen=True)
class Aim:
    """features: where they are on the design, each with its true size; or parameters that say a size."""

    features: tuple[tuple[Dimension, float], ...]
    stretch: bool
    parameters: Resize | None

    def factor(self, document: Document) -> float:
        """By how much a design is to grow: 1 where it is as it must be. With two factors the geometric mean."""
        if self.features:
            found = [(each, _measured(document, each), size) for each, size in self.features]
            across, down = factors_by_features(found, self.stretch)
        else:
            assert self.parameters is not None, "an aim has features or parameters"
            across, down = factors_for(document, self.parameters, *document.extent_mm)
        return float(np.sqrt(across * down))

    def moved(self, factor: float, off: tuple[float, float]) -> Aim:
        """The same on a design so many times as large, and moved."""
        features = tuple(
            (replace(each, places=tuple(tuple(scaled_place(place, factor, off)) for place in each.places)), size)
            for each, size in self.features
        )
        return replace(self, features=features)


def _measured(document: Document, dimension: Dimension):
    """On its own pieces, or else on what is there now. Raises CannotDo."""
    return measured(document, dimension) or feature_at(document, dimension.kind, dimension.places)[0]


def aim_of(document: Document, wish: Step) -> Aim:
    """Of a step resize or size-by for a design. A factor is meant of the present size. Raises BadRequest and
    CannotDo."""
    from . import operation_of, parameters_from

    parameters = parameters_from(operation_of(wish.operation), wish.parameters, wish.version)
    features = tuple((each, size) for each, _, size in wanted_features(document, parameters) if size is not None)
    if features:
        return Aim(features, parameters.stretch, None)
    if not isinstance(parameters, Resize):
        raise BadRequest("Type the true size of what is measured first.")
    if parameters.factor is not None:
        width, height = document.extent_mm
        by_width = width >= height
        sides = {"width_mm": width * parameters.factor} if by_width else {"height_mm": height * parameters.factor}
        parameters = replace(parameters, factor=None, **sides)
    return Aim((), False, parameters)
