"""Middleware around the application: allowed hosts, how texts are written for the keeper, and headers on each answer.

Plain ASGI: a stream that breaks breaks the connection, so that half a file never looks like a whole one.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Collection
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from salttide.core.basics.locale import Writing, write_as

LOOPBACK = frozenset({"localhost", "127.0.0.1", "::1", "testserver"})
"""Names that mean this machine; the last is that of the test client."""
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)


def host_name(header: str) -> str:
    """The name in a Host header, without its port.

    >>> host_name("localhost:8737"), host_name("[::1]:8737"), host_name("Reef.Example")
    ('localhost', '::1', 'reef.example')
    """
    if header.startswith("["):
        return header[1:].partition("]")[0].lower()
    return header.partition(":")[0].lower()


class Guard:
    """Refuses a Host that is not this server's, so that a page elsewhere cannot reach it under another name; hashes
    what comes under an Idempotency-Key; and puts headers on each answer."""

    def __init__(self, app: ASGIApp, writing: Callable[[], Writing], hosts: Collection[str] = ()) -> None:
        self.app, self.writing = app, writing
        self.hosts = LOOPBACK | {host.lower() for host in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        write_as(self.writing())
        headers = Headers(scope=scope)

        async def answered(message: Message) -> None:
            if message["type"] == "http.response.start":
                _put_headers(scope, message)
            await send(message)

        if host_name(headers.get("host", "")) not in self.hosts:
            await _refusal(headers.get("host", ""))(scope, receive, answered)
            return
        if "idempotency-key" not in headers:
            await self.app(scope, receive, answered)
            return
        asked = scope["salttide.asked"] = hashlib.sha256(
            b"\0".join((scope["method"].encode(), scope["path"].encode(), scope.get("query_string", b"")))
        )

        async def received() -> Message:
            message = await receive()
            asked.update(message.get("body", b""))
            return message

        await self.app(scope, received, answered)


def asked_of(scope: Scope) -> str:
    """The fingerprint of a command: a hash of its method, path and body; empty outside the guard."""
    found: Any = scope.get("salttide.asked")
    return found.hexdigest() if found else ""


def _put_headers(scope: Scope, message: Message) -> None:
    """Hashed assets are cached for good, all else is revalidated; nothing is loaded from elsewhere."""
    headers = MutableHeaders(scope=message)
    hashed = scope["path"].startswith("/assets/") and message["status"] == 200
    headers["Cache-Control"] = "public, max-age=31536000, immutable" if hashed else "no-cache"
    headers["Content-Security-Policy"] = POLICY
    headers["X-Content-Type-Options"] = "nosniff"
    headers["Referrer-Policy"] = "no-referrer"


def _refusal(host: str) -> JSONResponse:
    detail = (
        f"“{host}” is not a name of this server. Open it by the address it printed at its start, or name it in "
        "SALTTIDE_HOSTS."
    )
    problem = {
        "type": "/problems/host", "title": "Not this server", "status": 421, "detail": detail, "fields": [],
        "missing": [], "reference": "",
    }  # fmt: skip
    return JSONResponse(problem, 421, media_type="application/problem+json")
