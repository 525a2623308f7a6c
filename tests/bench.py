"""`make bench`: ratios measured side by side in one run, the size of the scripts of a first view, and whether the tests
notice a changed formula."""

from __future__ import annotations

import http.client
import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from typing import Any
from urllib.parse import urlparse

from tests.mutate import mutate
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


def quickest(act: Callable[[], Any], rounds: int) -> float:
    """Least seconds of several runs, after one that does not count."""
    act()
    return min(clocked(act) for _ in range(rounds))


def density_ratio() -> tuple[float, float]:
    """Seconds of the library's own inverse of density and of ours, for 100 000 waters."""
    import gsw
    import numpy as np

    from salttide.core.seawater import density_array_kg_l, salinity_from_density

    salinity, temperature = np.random.default_rng(3).uniform([[25], [18]], [[40], [32]], (2, 100_000))
    density = density_array_kg_l(salinity, temperature)
    conservative = gsw.CT_from_t(gsw.SR_from_SP(salinity), temperature, 0)
    theirs = quickest(lambda: gsw.SA_from_rho(density * 1000, conservative, 0), 9)
    return theirs, quickest(lambda: salinity_from_density(density, temperature), 9)


def carbonate_ratios() -> tuple[tuple[float, float], tuple[float, float]]:
    """Seconds of the oracle library and of ours: one water, and 10 000 at once."""
    import numpy as np
    import PyCO2SYS

    from salttide.core.carbonate import carbonate_from_pco2

    def theirs(alkalinity: Any, pco2: Any, salinity: Any, temperature: Any) -> Any:
        return PyCO2SYS.sys(
            par1=alkalinity * 1000, par1_type=1, par2=pco2, par2_type=4, salinity=salinity, temperature=temperature,
            opt_k_carbonic=10,
        )  # fmt: skip

    low, high = [[1], [150], [25], [18]], [[6], [4000], [40], [32]]
    many = np.random.default_rng(3).uniform(low, high, (4, 10_000))
    one = (2.5, 420.0, 35.0, 25.0)

    def ours(alkalinity: Any, pco2: Any, salinity: Any, temperature: Any) -> Any:
        return carbonate_from_pco2(pco2, alkalinity, salinity, temperature)

    single = quickest(lambda: theirs(*one), 3), quickest(lambda: ours(*one), 50)
    return single, (quickest(lambda: theirs(*many), 3), quickest(lambda: ours(*many), 9))


ALL_NAMES = "import salttide.core as c; [getattr(c, n) for names in c.PUBLIC.values() for n in names]"


def import_ratio(rounds: int = 7) -> tuple[float, float]:
    """Median seconds of importing NumPy, and the core with all its public names; a fresh process each, in turn."""
    numpy, core = [], []
    for _ in range(rounds):
        for code, times in (("import numpy", numpy), (ALL_NAMES, core)):
            times.append(clocked(lambda code=code: subprocess.run([sys.executable, "-c", code], cwd=ROOT, check=True)))
    return statistics.median(numpy), statistics.median(core)


def core_lines() -> list[bool]:
    """The core's own measures."""
    theirs, ours = density_ratio()
    (one_theirs, one_ours), (many_theirs, many_ours) = carbonate_ratios()
    numpy, core = import_ratio()
    seen, tried = mutate(20)
    return [
        line("salinity of 100 000 densities", f"{ours * 1e3:.1f} ms against {theirs * 1e3:.1f} ms", ours / theirs, 1.5),
        line(
            "200 times one carbonate system",
            f"{one_ours * 1e3:.2f} ms against {one_theirs * 1e3:.0f} ms",
            200 * one_ours / one_theirs,
            1,
        ),
        line(
            "10 000 carbonate systems",
            f"{many_ours * 1e3:.0f} ms against {many_theirs * 1e3:.0f} ms",
            many_ours / many_theirs,
            1,
        ),
        line("import of the core, NumPy", f"{core:.3f} s against {numpy:.3f} s", core / numpy, 3),
        line("changed formulas not noticed", f"{tried - seen} of {tried}", tried - seen, 0),
    ]


def line(name: str, measured: str, ratio: float, bar: float) -> bool:
    """Print one result against its bar."""
    met = ratio <= bar
    print(f"{name:34}{measured:44}{ratio:8.2f}   at most {bar:g}   {'met' if met else 'NOT MET'}", flush=True)
    return met


def main() -> int:
    alone, whole = start_ratio()
    results = [line("start to first answer", f"{whole:.3f} s against {alone:.3f} s", whole / alone, START_BAR)]
    results += core_lines()
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
