"""What has not changed is not computed again: answers are kept until something is written or the minute changes.

Plain ASGI. An answer carries an ETag, so that a browser that already has it gets a few bytes.
"""

from __future__ import annotations

import gzip
import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

KEPT_TYPES = ("application/json", "text/calendar")
MAX_KEPT, MAX_BYTES = 200, 4_000_000
"""How many answers are kept at once, and the largest that is kept."""
SMALL = 1000
"""Smaller answers, in bytes, are not compressed."""


@dataclass(frozen=True, eq=False)
class Kept:
    """A complete answer."""

    headers: tuple[tuple[bytes, bytes], ...]
    body: bytes
    tag: str

    @cached_property
    def small(self) -> bytes:
        """The body, compressed once."""
        return gzip.compress(self.body, 5, mtime=0)


class Answers:
    """Answers GET requests from what was answered before. standing: what an answer depends on besides its request; it
    changes whenever something is written or time moves on."""

    def __init__(self, app: ASGIApp, standing: Callable[[], object]) -> None:
        self.app, self.standing = app, standing
        self._stood: object = None
        self._kept: dict[tuple[object, ...], Kept] = {}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "GET" or not scope["path"].startswith(("/api/", "/calendar/")):
            await self.app(scope, receive, send)
            return
        stands, headers = self.standing(), Headers(scope=scope)
        if stands != self._stood:
            self._stood, self._kept = stands, {}
        key = (scope["path"], scope.get("query_string"), scope.get("scheme"), headers.get("host"))
        kept = self._kept.get(key) or await self._ask(scope, receive, send)
        if kept is None:
            return
        if stands == self._stood and len(self._kept) < MAX_KEPT and "salttide.moving" not in scope:
            self._kept[key] = kept
        await _send(kept, headers, send)

    async def _ask(self, scope: Scope, receive: Receive, send: Send) -> Kept | None:
        """The complete answer where it can be kept; anything else is passed on and None returned."""
        begun: Message = {}
        parts: list[bytes] = []
        ended = False

        async def answered(message: Message) -> None:
            nonlocal begun, ended
            if message["type"] == "http.response.start" and _keeps(message):
                begun = message
            elif not begun:
                await send(message)
            else:
                parts.append(message.get("body", b""))
                ended = not message.get("more_body", False)

        await self.app(scope, receive, answered)
        if not begun:
            return None
        if not ended:
            raise RuntimeError("the answer broke off")
        body, headers = b"".join(parts), MutableHeaders(raw=list(begun["headers"]))
        tag = headers.get("etag") or f'"{hashlib.sha256(body).hexdigest()[:32]}"'
        headers["etag"] = tag
        return Kept(tuple(headers.raw), body, tag)


def _keeps(message: Message) -> bool:
    headers = Headers(raw=message["headers"])
    whole = int(headers.get("content-length", MAX_BYTES + 1)) <= MAX_BYTES
    return message["status"] == 200 and whole and headers.get("content-type", "").startswith(KEPT_TYPES)


async def _send(kept: Kept, asked: Headers, send: Send) -> None:
    headers = MutableHeaders(raw=list(kept.headers))
    status, body = 200, kept.body
    if kept.tag in asked.get("if-none-match", ""):
        status, body = 304, b""
        del headers["content-length"]
        del headers["content-type"]
    elif len(kept.body) >= SMALL and "gzip" in asked.get("accept-encoding", ""):
        body = kept.small
        headers["content-encoding"] = "gzip"
        headers.add_vary_header("Accept-Encoding")
        headers["content-length"] = str(len(body))
    await send({"type": "http.response.start", "status": status, "headers": headers.raw})
    await send({"type": "http.response.body", "body": body})
