"""The example household, to look round in: an application of its own under `/example/`, on data of its own, beside the
keeper's and never mixed with it. It is made when it is first asked for, and gone when the program ends.
"""

from __future__ import annotations

import asyncio
import tempfile
from pathlib import Path

from fastapi import FastAPI
from starlette.types import ASGIApp, Receive, Scope, Send

PREFIX = "/example"


class WithExample:
    """The keeper's application, with the example household beside it."""

    def __init__(self, own: FastAPI, build: Path, links: str = "") -> None:
        self.own, self.build, self.links = own, build, links
        self.folder: tempfile.TemporaryDirectory[str] | None = None
        self.example: FastAPI | None = None
        self.making = asyncio.Lock()
        own.state.example = True

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Requests under the prefix go to the example household, all others to the keeper's."""
        if scope["type"] != "http" or not (scope["path"] + "/").startswith(f"{PREFIX}/"):
            await self.own(scope, receive, send)
            if scope["type"] == "lifespan":
                self.end()
            return
        app = await self.made()
        path = scope["path"].removeprefix(PREFIX) or "/"
        await app({**scope, "path": path, "raw_path": path.encode()}, receive, send)

    async def made(self) -> ASGIApp:
        """The example household's application, made once."""
        async with self.making:
            if self.example is None:
                self.example = await asyncio.to_thread(self._make)
        return self.example

    def _make(self) -> FastAPI:
        from salttide.app import begin, routes
        from salttide.clock import PinnedClock
        from salttide.demo.household import NOW, make_household

        self.folder = tempfile.TemporaryDirectory(prefix="salttide-example-", ignore_cleanup_errors=True)
        database = Path(self.folder.name) / "example.db"
        make_household(database)
        return begin(routes(self.build), database, PinnedClock(NOW, True), links=self.links)

    def end(self) -> None:
        """Close and remove the example household."""
        if self.example is not None:
            self.example.state.database.close()
        if self.folder is not None:
            self.folder.cleanup()
        self.example = self.folder = None
