"""A fault that nobody foresaw gets a number; the log has it in full under the same number."""

from __future__ import annotations

import logging
import secrets

log = logging.getLogger("salttide")


def fault_number(error: BaseException, where: str) -> str:
    """Write a fault into the log and return its number, eight hexadecimal digits."""
    reference = secrets.token_hex(4)
    log.error("reference %s: %s", reference, where, exc_info=error)
    return reference
