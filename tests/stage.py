"""A real server in a process of its own on a copy of the demo data, and a browser: shared by web tests and pictures."""

from __future__ import annotations

import atexit
import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from contextlib import suppress
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from fastapi import FastAPI

    from salttide.clock import Clock
    from salttide.household.memo import Memo

ROOT = Path(__file__).resolve().parent.parent
FLAGS = (
    "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --hide-scrollbars "
    "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost"
)


MADE = "SALTTIDE_TESTS_DEMO"
"""Names the demo data in the processes of a run that share them."""


@cache
def demo_database() -> Path:
    """The demo data, made once for a run of the tests."""
    from salttide.demo.household import make_household

    if made := os.environ.get(MADE):
        return Path(made)
    folder = Path(tempfile.mkdtemp(prefix="salttide-tests-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    make_household(folder / "demo.db")
    return folder / "demo.db"


def begin_as(warm: Memo, memo: Memo) -> None:
    """Let a program that opens a copy of the same data begin with what another has worked out of it."""
    memo.ledgers.kept.update(warm.ledgers.kept)
    memo.states.kept.update(warm.states.kept)


@cache
def _routed() -> FastAPI:
    from salttide.app import routed

    return routed(None)


def app_on(database: Path, clock: Clock) -> FastAPI:
    """The application on a database, in the place of the one before: its routes, which take long to describe, are
    described once for a run."""
    from salttide.app import begin

    return begin(_routed(), database, clock)


PORT = 18_700 + 40 * (os.getpid() % 100)
"""From here on: two runs beside each other do not take each other's."""


@cache
def _nursery() -> subprocess.Popen[str]:
    """The process that servers are forked from."""
    process = subprocess.Popen(
        [sys.executable, "-W", "ignore", "-m", "tests.served", str(demo_database())],
        cwd=ROOT, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert process.stdout
    assert process.stdin
    if process.stdout.readline() != "ready\n":
        raise RuntimeError("the program cannot be loaded")

    def end() -> None:
        process.communicate()

    atexit.register(end)
    return process


class Server:
    """A server process; `kill` is SIGKILL, `start` starts it again on the same database."""

    def __init__(self, database: Path | None = None, empty: bool = False, visitors: bool = False) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="salttide-server-"))
        self.database, self.output = self.folder / "copy.db", self.folder / "said.txt"
        self.empty, self.visitors = empty, visitors
        if not empty:
            source = database or demo_database()
            shutil.copyfile(source, self.database)
            pictures = source.with_name(f"{source.stem}.pictures")
            if pictures.exists():
                shutil.copytree(pictures, self.folder / "copy.pictures")
        self.process = 0
        self.url = self.visitors_url = ""
        self.start()

    def start(self) -> None:
        """Start, and wait until the address is printed and answers."""
        arguments = ["serve"] if self.empty else ["demo", "--database", str(self.database)]
        environment = {**os.environ, "SALTTIDE_DATABASE": str(self.database), "SALTTIDE_PORT": str(PORT)}
        if self.visitors:
            environment["SALTTIDE_VISITORS_PORT"] = str(PORT + 20)
        self.output.unlink(missing_ok=True)
        asked = {"arguments": arguments, "environment": environment, "output": str(self.output)}
        nursery = _nursery()
        assert nursery.stdin
        assert nursery.stdout
        nursery.stdin.write(json.dumps(asked) + "\n")
        nursery.stdin.flush()
        self.process = int(nursery.stdout.readline())
        self.url, *others = self._addresses(2 if self.visitors else 1)
        self.visitors_url = "".join(others)
        self._wait()

    def _addresses(self, count: int) -> list[str]:
        """What it printed: its addresses."""
        for _ in range(400):
            with suppress(OSError):
                found = re.findall(r"http://\S+?(?=/)", self.output.read_text("utf-8"))
                if len(found) >= count:
                    return found[:count]
            time.sleep(0.02)
        raise RuntimeError("the server did not start")

    def _wait(self) -> None:
        for _ in range(400):
            with suppress(OSError), urllib.request.urlopen(f"{self.url}/api/health", timeout=5):
                return
            time.sleep(0.02)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        """SIGKILL: no chance to tidy up."""
        self._end(signal.SIGKILL)

    def stop(self) -> None:
        """End it and remove the data; how a server stops by itself is tested where it starts."""
        self._end(signal.SIGKILL)
        shutil.rmtree(self.folder, ignore_errors=True)

    def _end(self, how: signal.Signals) -> None:
        number, self.process = self.process, 0
        with suppress(ProcessLookupError):
            if number:
                os.kill(number, how)
            for _ in range(1000 if number else 0):
                os.kill(number, 0)
                time.sleep(0.01)


@cache
def browser() -> Any:
    """One headless Chromium for the whole run."""
    from playwright.sync_api import sync_playwright

    chromium = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if not chromium:
        raise RuntimeError("Chromium is missing: run the tests with `make test`, which installs it")
    playwright = sync_playwright().start()
    started = playwright.chromium.launch(executable_path=chromium, args=_flags())
    atexit.register(playwright.stop)
    atexit.register(started.close)
    return started


def _flags() -> list[str]:
    plain, rules = FLAGS.split("--host-resolver-rules=")
    return [*plain.split(), f"--host-resolver-rules={rules}"]


WIDE = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


@cache
def shared_context(night: bool = False) -> Any:
    """One context for all tests of a theme: what the program's files are is kept by it, as by any browser. Whoever uses
    it forgets afterwards what pages have stored."""
    return open_context(night=night)


def forget(context: Any, addresses: list[str]) -> None:
    """Close what is open in a context, and forget all that pages at some addresses have stored."""
    page = context.new_page()
    session = context.new_cdp_session(page)
    for other in context.pages:
        if other != page:
            other.close()
    for address in addresses:
        session.send("Storage.clearDataForOrigin", {"origin": address, "storageTypes": "all"})
    context.clear_cookies()
    context.clear_permissions()
    page.close()


def open_context(size: dict[str, int] | None = None, night: bool = False) -> Any:
    """A fresh browser context, still and in the household's time zone."""
    context = browser().new_context(
        viewport=size or WIDE, reduced_motion="reduce", timezone_id="Europe/Copenhagen", locale="en-GB"
    )
    if night:
        context.add_init_script("localStorage.setItem('salttide.night', '1')")
    return context
