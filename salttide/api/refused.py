"""Refusals at their field, with their text by key."""

from salttide.core.basics.errors import InputError
from salttide.core.basics.phrases import phrase


def refused(key: str, field: str, accepted: str = "", takes: str = "", **parts: object) -> InputError:
    """A refusal at a field: its text by key, with the parts put in. accepted_key: what would be accepted, by key ·
    takes: the same as plain text."""
    return InputError(phrase(key, **parts), field=field, accepted=phrase(accepted) if accepted else takes)
