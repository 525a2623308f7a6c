"""`make bench`: ratios measured side by side in one run, and the size of the scripts of a first view."""

from __future__ import annotations

import http.client
import json
import statistics
import subprocess
import sys
import time
from typing import Any
from urllib.parse import urlparse

from tests.stage import ROOT, Server, demo_database, open_context

START_BAR, PREVIEW_BAR = 3.0, 5.0
SCRIPT_BARS = {"Harbour": 230_000, "Sheet": 420_000}


def clocked(act: Any) -> float:
    """Seconds that `act` takes."""
    begun = time.perf_counter()
    act()
    return time.perf_counter() - begun


def start_ratio(rounds: int = 7) -> tuple[float, float]:
    """Median seconds of importing FastAPI alone, and from starting the program to its first answer; in turn."""
    alone, whole = [], []
    for _ in range(rounds):
        alone.append(clocked(lambda: subprocess.run([sys.executable, "-c", "import fastapi"], cwd=ROOT, check=True)))
        begun = time.perf_counter()
        server = Server(demo_database())
        whole.append(time.perf_counter() - begun)
        server.stop()
    return statistics.median(alone), statistics.median(whole)


def preview_ratio(server: Server, rounds: int = 400) -> tuple[float, float]:
    """95th percentile in seconds of an empty request and of a plan preview, on one kept connection, in turn."""
    address = urlparse(server.url)
    connection = http.client.HTTPConnection(address.hostname or "", address.port)
    headers = {"Content-Type": "application/json"}

    def ask(method: str, path: str, body: str | None = None) -> bytes:
        connection.request(method, path, body, headers)
        answer = connection.getresponse()
        text = answer.read()
        assert answer.status == 200, text
        return text

    wish = json.dumps(json.loads(ask("GET", "/api/systems/1/change"))["wish"])
    empty, preview = [], []
    for turn in range(rounds + 20):
        one = clocked(lambda: ask("GET", "/api/health"))
        other = clocked(lambda: ask("POST", "/api/systems/1/change/preview", wish))
        if turn >= 20:
            empty.append(one)
            preview.append(other)
    connection.close()
    return percentile(empty), percentile(preview)


def percentile(seconds: list[float], share: int = 95) -> float:
    """The given percentile."""
    return statistics.quantiles(seconds, n=100)[share - 1]


def script_bytes(server: Server, path: str) -> int:
    """Bytes of all scripts as they come over the wire (gzip) in the first view of a page."""
    context = open_context()
    page = context.new_page()
    wire: dict[str, int] = {}
    scripts: set[str] = set()
    session = context.new_cdp_session(page)
    session.send("Network.enable")
    session.on("Network.responseReceived", lambda e: scripts.add(e["requestId"]) if e["type"] == "Script" else None)
    session.on("Network.loadingFinished", lambda e: wire.update({e["requestId"]: int(e["encodedDataLength"])}))
    page.goto(f"{server.url}{path}", wait_until="networkidle")
    page.get_by_role("heading", level=1).first.wait_for()
    total = sum(wire.get(key, 0) for key in scripts)
    context.close()
    return total


def line(name: str, measured: str, ratio: float, bar: float) -> bool:
    """Print one result against its bar."""
    met = ratio <= bar
    print(f"{name:34}{measured:44}{ratio:8.2f}   at most {bar:g}   {'met' if met else 'NOT MET'}", flush=True)
    return met


def main() -> int:
    alone, whole = start_ratio()
    results = [line("start to first answer", f"{whole:.3f} s against {alone:.3f} s", whole / alone, START_BAR)]
    server = Server(demo_database())
    try:
        empty, preview = preview_ratio(server)
        measured = f"p95 {preview * 1000:.2f} ms against {empty * 1000:.2f} ms"
        results.append(line("plan preview, empty request", measured, preview / empty, PREVIEW_BAR))
        for name, path in (("Harbour", "/"), ("Sheet", "/systems/1/sheet")):
            size = script_bytes(server, path)
            bar = SCRIPT_BARS[name]
            results.append(line(f"scripts of {name}, gzipped", f"{size / 1000:.1f} kB", size / 1000, bar / 1000))
    finally:
        server.stop()
    return 0 if all(results) else 1


if __name__ == "__main__":
    sys.exit(main())
