"""Where things are and how the server runs: from the environment, with defaults for a keeper's own machine."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Settings:
    """`database` of the keeper, `host` (loopback unless told otherwise) and `port`."""

    database: Path
    host: str
    port: int


def settings() -> Settings:
    """Read SALTTIDE_DATABASE, SALTTIDE_HOST and SALTTIDE_PORT."""
    return Settings(
        Path(os.environ.get("SALTTIDE_DATABASE") or _data_folder() / "salttide.db"),
        os.environ.get("SALTTIDE_HOST", "127.0.0.1"),
        int(os.environ.get("SALTTIDE_PORT", "8737")),
    )


def _data_folder() -> Path:
    from platformdirs import user_data_path

    return user_data_path("salttide")
