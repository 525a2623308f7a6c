"""Settings from the environment: where data are and how the server runs, with defaults for a keeper's own machine."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from salttide.core.basics.errors import InputError


@dataclass(frozen=True)
class Settings:
    """`database` of the keeper, `host` (loopback unless told otherwise) and `port`.

    visitors: a second port (0: none) that serves only carers' pages and the calendar, at a host of its own ·
    visitors_url: its address from outside, for links given away · hosts: further names the server answers to ·
    mail_password: of the server that sends alarms by e-mail, which is stored nowhere else ·
    trust_network: whether the keeper's port, which has no log-in, may be open to a network.
    """

    database: Path
    host: str
    port: int
    visitors: int = 0
    visitors_host: str = "127.0.0.1"
    visitors_url: str = ""
    hosts: tuple[str, ...] = ()
    trust_network: bool = False
    mail_password: str = ""


def settings() -> Settings:
    """Read the SALTTIDE_ variables of the environment. Raises InputError that names the one that is wrong."""
    return Settings(
        Path(os.environ.get("SALTTIDE_DATABASE") or _data_folder() / "salttide.db"),
        os.environ.get("SALTTIDE_HOST", "127.0.0.1"),
        _port("SALTTIDE_PORT", "8737", 1),
        _port("SALTTIDE_VISITORS_PORT", "0", 0),
        os.environ.get("SALTTIDE_VISITORS_HOST", "127.0.0.1"),
        os.environ.get("SALTTIDE_VISITORS_URL", "").rstrip("/"),
        tuple(name.strip() for name in os.environ.get("SALTTIDE_HOSTS", "").split(",") if name.strip()),
        os.environ.get("SALTTIDE_TRUST_NETWORK", "").lower() == "yes",
        os.environ.get("SALTTIDE_MAIL_PASSWORD", ""),
    )


def _port(name: str, usual: str, least: int) -> int:
    text = os.environ.get(name) or usual
    if not text.isdecimal() or not least <= int(text) <= 65535:
        raise InputError(f"{name} is “{text}”: a port is a whole number from {least} to 65535", field=name)
    return int(text)


def _data_folder() -> Path:
    from platformdirs import user_data_path

    return user_data_path("salttide")
