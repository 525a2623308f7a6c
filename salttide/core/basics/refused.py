"""Refusals at their field, with their text by key."""

from __future__ import annotations

from .errors import InputError
from .phrases import phrase


def refused(key: str, field: str, accepted: str = "", takes: str = "", **parts: object) -> InputError:
    """A refusal at a field: its text by key, with the parts put in. accepted: what would be accepted, by key ·
    takes: the same as plain text."""
    return InputError(phrase(key, **parts), field=field, accepted=phrase(accepted) if accepted else takes)
