"""Refusals at their field, in the words of a key."""

from salttide.core.basics.errors import InputError
from salttide.core.basics.phrases import phrase


def refused(key: str, field: str, accepted: str = "", takes: str = "", **parts: object) -> InputError:
    """What is wrong at a field by its key, with its parts; accepted: what would be taken, by key · takes: as it is."""
    return InputError(phrase(key, **parts), field=field, accepted=phrase(accepted) if accepted else takes)
