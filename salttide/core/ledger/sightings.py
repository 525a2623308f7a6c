"""What a review of one growth says of the signs of the visual check before it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from ..system.catalogue import signs
from ..system.inspection import Amount, Sign, VisualCheck

COVER = "cover_"
"""Prefix of what a review finds: how much of a sign there is."""
COVERED: Mapping[str, Amount] = {"a little": Amount.TRACE, "patches": Amount.PATCHES, "much": Amount.MUCH}
"""How much a review found, as the amount of a sign; none is no sign."""


def covers(found: Mapping[str, float | str]) -> bool:
    """Whether it says how much of a growth there is."""
    return any(key.startswith(COVER) for key in found)


def reviewed(before: VisualCheck, found: Mapping[str, float | str]) -> VisualCheck:
    """A visual check with what a review has said of its growths since; all else as it was seen, on its day."""
    signs_left = [sign for sign in before.signs if COVER + sign.kind.key not in found]
    for key, value in found.items():
        amount = COVERED.get(str(value)) if key.startswith(COVER) else None
        if amount is not None:
            earlier = next((sign for sign in before.signs if COVER + sign.kind.key == key), None)
            signs_left.append(Sign(signs()[key.removeprefix(COVER)], amount, earlier.where if earlier else None))
    return replace(before, signs=tuple(signs_left))
