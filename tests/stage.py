"""A real server in a process of its own on a copy of the demo data, and a browser: shared by web tests and pictures."""

from __future__ import annotations

import atexit
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
from contextlib import suppress
from functools import cache
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
FLAGS = (
    "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --hide-scrollbars "
    "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost"
)


@cache
def demo_database() -> Path:
    """The demo data, made once for a run of the tests."""
    from salttide.demo.household import make_household

    folder = Path(tempfile.mkdtemp(prefix="salttide-tests-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    make_household(folder / "demo.db")
    return folder / "demo.db"


PORT = 18_700 + 40 * (os.getpid() % 100)
"""From here on: two runs beside each other do not take each other's."""


class Server:
    """A server process; `kill` is SIGKILL, `start` starts it again on the same database."""

    def __init__(self, database: Path | None = None, empty: bool = False, visitors: bool = False) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="salttide-server-"))
        self.database = self.folder / "copy.db"
        self.empty, self.visitors = empty, visitors
        if not empty:
            source = database or demo_database()
            shutil.copyfile(source, self.database)
            pictures = source.with_name(f"{source.stem}.pictures")
            if pictures.exists():
                shutil.copytree(pictures, self.folder / "copy.pictures")
        self.process: subprocess.Popen[str] | None = None
        self.url = self.visitors_url = ""
        self.start()

    def start(self) -> None:
        """Start, and wait until the address is printed and answers."""
        command = ["serve"] if self.empty else ["demo", "--database", str(self.database)]
        environment = {**os.environ, "SALTTIDE_DATABASE": str(self.database), "SALTTIDE_PORT": str(PORT)}
        if self.visitors:
            environment["SALTTIDE_VISITORS_PORT"] = str(PORT + 20)
        self.process = subprocess.Popen(
            [sys.executable, "-m", "salttide", *command],
            cwd=ROOT, env=environment, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True,
        )  # fmt: skip
        assert self.process.stdout
        self.url = self._address(self.process.stdout.readline())
        if self.visitors:
            self.visitors_url = self._address(self.process.stdout.readline())
        self._wait()

    @staticmethod
    def _address(line: str) -> str:
        found = re.search(r"http://\S+?(?=/)", line)
        if not found:
            raise RuntimeError(f"the server did not start: {line!r}")
        return found.group(0)

    def _wait(self) -> None:
        import time
        import urllib.request

        for _ in range(200):
            with suppress(OSError), urllib.request.urlopen(f"{self.url}/api/health", timeout=1):
                return
            time.sleep(0.05)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        """SIGKILL: no chance to tidy up."""
        self._end(signal.SIGKILL)

    def stop(self) -> None:
        """Stop and remove the data."""
        self._end(signal.SIGTERM)
        shutil.rmtree(self.folder, ignore_errors=True)

    def _end(self, how: signal.Signals) -> None:
        if self.process:
            self.process.send_signal(how)
            self.process.wait(10)
            if self.process.stdout:
                self.process.stdout.close()
            self.process = None


@cache
def browser() -> Any:
    """One headless Chromium for the whole run."""
    from playwright.sync_api import sync_playwright

    chromium = shutil.which("chromium")
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


def open_context(size: dict[str, int] | None = None, night: bool = False) -> Any:
    """A fresh browser context, still and in the household's time zone."""
    context = browser().new_context(
        viewport=size or WIDE, reduced_motion="reduce", timezone_id="Europe/Copenhagen", locale="en-GB"
    )
    if night:
        context.add_init_script("localStorage.setItem('salttide.night', '1')")
    return context
