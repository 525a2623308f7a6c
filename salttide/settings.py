"""Where things are and how the server runs: from the environment, with defaults for a keeper's own machine."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Settings:
    """`database` of the keeper, `host` (loopback unless told otherwise) and `port`; `visitors` is a second port (0:
    none) that shows only carers' pages and the calendar, for those who may see no more."""

    database: Path
    host: str
    port: int
    visitors: int = 0


def settings() -> Settings:
    """Read SALTTIDE_DATABASE, SALTTIDE_HOST, SALTTIDE_PORT and SALTTIDE_VISITORS_PORT."""
    return Settings(
        Path(os.environ.get("SALTTIDE_DATABASE") or _data_folder() / "salttide.db"),
        os.environ.get("SALTTIDE_HOST", "127.0.0.1"),
        int(os.environ.get("SALTTIDE_PORT", "8737")),
        int(os.environ.get("SALTTIDE_VISITORS_PORT", "0")),
    )


def _data_folder() -> Path:
    from platformdirs import user_data_path

    return user_data_path("salttide")
