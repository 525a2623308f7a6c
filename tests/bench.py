"""`make bench`: ratios measured side by side in one run, the size of the scripts of a first view, and whether the tests
notice a changed formula."""

from __future__ import annotations

import csv
import http.client
import json
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from urllib.parse import urlparse

from salttide.core.ledger.entries import Change
from salttide.core.ledger.plan import Plan, daily_as_recorded
from salttide.core.programme.file import programmes
from salttide.core.science.parameters import FACTS
from salttide.demo.household import NOW
from salttide.files.importing import kept_map, run
from salttide.files.readings import guess
from salttide.files.table import shape_of
from salttide.store import importing
from salttide.store.database import Database
from tests.backtest import asked, everyday, figures, noticed
from tests.calm_trial import left_alone, random_acts
from tests.dosing_trial import kept as kept_by_dosing
from tests.failure_trial import trial as played_failures
from tests.finder_trial import trial as found_plans
from tests.mutate import mutate
from tests.page_costs import AGAIN_BAR, PAGES, SAME_BAR, costs
from tests.programme_trial import KINDS, followed, the_usual_way
from tests.remedy_trial import run as remedy_run
from tests.rota_trial import trial
from tests.scale import grown, opened
from tests.spread_trial import spreads
from tests.stage import ROOT, Server, demo_database, open_context

START_BAR, PREVIEW_BAR = 3.0, 5.0
MUTANTS, UNNOTICED_SHARE = 200, 0.05
IMPORT_BAR, MEANWHILE_BAR, MILLION = 3.0, 10.0, 1_000_000
SCRIPT_BARS = {"Harbour": 230_000, "Sheet": 420_000, "Dosing": 420_000}


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

    request = json.dumps(json.loads(ask("GET", "/api/systems/1/change"))["request"])
    empty, preview = [], []
    for turn in range(rounds + 20):
        one = clocked(lambda: ask("GET", "/api/health"))
        other = clocked(lambda: ask("POST", "/api/systems/1/change/preview", request))
        if turn >= 20:
            empty.append(one)
            preview.append(other)
    connection.close()
    return percentile(empty), percentile(preview)


def dragged_ratio(server: Server, rounds: int = 300) -> tuple[float, float]:
    """95th percentile in seconds of an empty request, and of a preview while a change is dragged."""
    address = urlparse(server.url)
    connection = http.client.HTTPConnection(address.hostname or "", address.port)

    def ask(method: str, path: str, body: str | None = None) -> bytes:
        connection.request(method, path, body, {"Content-Type": "application/json"})
        answer = connection.getresponse()
        text = answer.read()
        assert answer.status == 200, text
        return text

    lanes = json.loads(ask("GET", "/api/systems/1/sheet"))["lanes"]
    mark = next(m for lane in lanes for m in lane["marks"] if m["task"] == "water_change")
    moved = {key: mark[key] for key in ("task", "due", "step_id")}
    empty, tried = [], []
    for turn in range(rounds + 20):
        day = f"{NOW.date() + timedelta(days=1 + turn % 9)}"
        body = json.dumps({"moved": [{**moved, "day": day}], "ahead": 14, "parameters": ["salinity", "alkalinity"]})
        one = clocked(lambda: ask("GET", "/api/health"))
        other = clocked(lambda body=body: ask("POST", "/api/systems/1/plan/preview", body))
        if turn >= 20:
            empty.append(one)
            tried.append(other)
    connection.close()
    return percentile(empty), percentile(tried)


def percentile(seconds: list[float], share: int = 95) -> float:
    """The given percentile."""
    return statistics.quantiles(seconds, n=100)[share - 1]


def million_rows(path: Path, count: int) -> None:
    """A probe's record of that many readings, in our own columns."""
    kinds = (("temperature", "25.1", "°C"), ("ph", "8.12", ""), ("salinity", "34.7", "ppt"))
    first = datetime(2014, 1, 1, tzinfo=UTC)
    with path.open("w", encoding="utf-8") as file:
        file.write("at,system,parameter,value,unit,instrument,scatter,note\r\n")
        for i in range(count):
            name, value, unit = kinds[i % 3]
            at = f"{first + timedelta(seconds=330 * i):%Y-%m-%dT%H:%M:%SZ}"
            file.write(f"{at},Beacon,{name},{value}{i % 10},{unit},probe {i % 3},,\r\n")


def bare_import(path: Path, database: Database) -> float:
    """Seconds of csv and executemany alone, into the same tables, unchecked."""
    with database.write() as connection:
        begun = time.perf_counter()
        with path.open(newline="", encoding="utf-8") as file:
            reader = csv.reader(file)
            next(reader)
            rows = list(reader)
        connection.executemany(
            "INSERT INTO entry (id, system_id, kind, at, recorded_at, command)"
            " VALUES (?, 1, 'reading', ?, ?, 'import-bare')",
            ((1_000_000 + i, row[0], row[0]) for i, row in enumerate(rows)),
        )
        connection.executemany(
            "INSERT INTO reading (entry_id, parameter, value, sd, instrument) VALUES (?, ?, ?, 1, ?)",
            ((1_000_000 + i, row[2], float(row[3]), row[5]) for i, row in enumerate(rows)),
        )
    return time.perf_counter() - begun


def readings_ratio(count: int) -> tuple[float, float]:
    """Seconds of a bare insertion, and of an import with everything that it checks, of one file; each into a new copy
    of the demo data."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "readings.csv"
        million_rows(path, count)
        seconds = []
        for name, act in (("bare", bare_import), ("whole", _whole_import)):
            shutil.copyfile(demo_database(), Path(folder) / f"{name}.db")
            database = Database(Path(folder) / f"{name}.db")
            seconds.append(act(path, database))
            database.close()
            (Path(folder) / f"{name}.db").unlink()
        return seconds[0], seconds[1]


def _prepared(path: Path, database: Database) -> None:
    header = shape_of(path).header
    with database.write() as connection:
        importing.add_import(
            connection, "import-whole", path.name, str(path), path.stat().st_size, header, "2026-11-24"
        )
        importing.set_mapping(connection, "import-whole", kept_map(guess(header)))
        importing.turn(connection, "import-whole", "keeping", only_from=("new",))


def _whole_import(path: Path, database: Database) -> float:
    _prepared(path, database)
    begun = time.perf_counter()
    run(database, "import-whole", NOW, keep=True)
    ended = time.perf_counter() - begun
    item = importing.one_import(database.connection, "import-whole")
    assert item.state == "done", item.said
    assert not item.bad, item.bad_rows
    return ended


def answers_meanwhile(server: Server, count: int) -> tuple[float, float, float]:
    """95th percentiles in seconds: an empty request while idle; a record read and a happening kept meanwhile."""
    address = urlparse(server.url)
    connection = http.client.HTTPConnection(address.hostname or "", address.port)

    def ask(method: str, path: str, body: str | bytes | None = None, key: str = "") -> Any:
        headers = {"Content-Type": "application/json", **({"Idempotency-Key": key} if key else {})}
        connection.request(method, path, body, headers)
        answer = connection.getresponse()
        text = answer.read()
        assert answer.status < 300, text
        return json.loads(text)

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "readings.csv"
        million_rows(path, count)
        brought = ask("POST", "/api/imports?name=readings.csv", path.read_bytes(), "bench-import")
    idle = percentile([clocked(lambda: ask("GET", "/api/health")) for _ in range(300)])
    ask("POST", f"/api/imports/{brought['id']}/check", json.dumps(brought["mapping"]))
    reads, writes = [], []
    while ask("GET", f"/api/imports/{brought['id']}")["state"] == "checking":
        _ask_both(ask, reads, writes)
    ask("POST", f"/api/imports/{brought['id']}/save")
    while ask("GET", f"/api/imports/{brought['id']}")["state"] == "keeping":
        _ask_both(ask, reads, writes)
    connection.close()
    return idle, percentile(reads), percentile(writes)


def _ask_both(ask: Any, reads: list[float], writes: list[float]) -> None:
    """A record read and a happening kept."""
    key = f"bench-meanwhile-{len(writes):06d}"
    body = json.dumps({"kind": "lamp"})
    reads.append(clocked(lambda: ask("GET", "/api/systems/2/record?limit=20")))
    writes.append(clocked(lambda: ask("POST", "/api/systems/2/inspection/events", body, key)))


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

    from salttide.core.science.seawater import density_array_kg_l, salinity_from_density

    salinity, temperature = np.random.default_rng(3).uniform([[25], [18]], [[40], [32]], (2, 100_000))
    density = density_array_kg_l(salinity, temperature)
    conservative = gsw.CT_from_t(gsw.SR_from_SP(salinity), temperature, 0)
    theirs = quickest(lambda: gsw.SA_from_rho(density * 1000, conservative, 0), 9)
    return theirs, quickest(lambda: salinity_from_density(density, temperature), 9)


def carbonate_ratios() -> tuple[tuple[float, float], tuple[float, float]]:
    """Seconds of the oracle library and of ours: one water, and 10 000 at once."""
    import numpy as np
    import PyCO2SYS

    from salttide.core.science.carbonate import carbonate_from_pco2

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


WHOLE_BAR = 4.0
"""Everything that the core offers, rules of judgement included, loaded in one go; nobody does that at a start."""
ALL_NAMES = "import salttide.core as c; [getattr(c, n) for names in c.PUBLIC.values() for n in names]"


def import_seconds(rounds: int = 7) -> list[float]:
    """Median seconds of importing NumPy, `salttide.core`, and all its public names; fresh processes, in turn."""
    times: dict[str, list[float]] = {"import numpy": [], "import salttide.core": [], ALL_NAMES: []}
    for _ in range(rounds):
        for code, kept in times.items():
            kept.append(clocked(lambda code=code: subprocess.run([sys.executable, "-c", code], cwd=ROOT, check=True)))
    return [statistics.median(kept) for kept in times.values()]


def scale_lines() -> list[bool]:
    """Ten years of eight systems: what it takes to open a part of a sheet."""
    with tempfile.TemporaryDirectory() as folder:
        path, count, per_million, seconds = grown(Path(folder))
        print(f"{count:,} probe readings in {seconds:.0f} s; {per_million / 1e6:.1f} MB for a million, rolled up")
        found = {one.name: one for one in opened(path)}
    results = []
    for one in found.values():
        measured = f"{one.ours * 1e3:.2f} ms against {one.plain * 1e3:.2f} ms, {one.rows} rows"
        results.append(line(f"sheet of {one.name}, plain SQL", measured, one.ours / one.plain, 3))
    ten, year = found["ten years"], found["a year"]
    measured = f"{ten.ours / ten.rows * 1e6:.2f} against {year.ours / year.rows * 1e6:.2f} µs a point"
    results.append(line("ten years, a year", measured, ten.ours / ten.rows / (year.ours / year.rows), 1.2))
    return results


RUNS = 150
"""Trials of each scenario at each uptake."""


def backtest_lines() -> list[bool]:
    """What the fish room's hidden truth says of the rate and of the forecast; each scenario and uptake for itself."""
    results, held, sure = [], [], []
    for one in figures(RUNS):
        true = one.uptake * (1.6 if one.scenario == "step" else 1.0)
        name = f"{one.scenario}, {one.uptake:.2f} dKH a day"
        bar = max(0.1 * true, 0.02)
        results.append(line(f"{name}: uptake", f"median error {one.error:.4f} dKH a day", one.error, bar))
        short = f"held the truth in {100 * one.held:.0f} %"
        results.append(line("  80 % interval, short of it", short, max(0.0, 0.8 - one.held), 0.1))
        week = f"week ahead, median error {one.ahead:.3f} dKH"
        results.append(line("  of a line through the last two", week, one.line, 0.8))
        if one.stays is not None:
            results.append(line("  of staying as last measured", week, one.stays, 0.7))
        held.append(one.held)
    for each in everyday(RUNS):
        held.append(each.held)
        told = f"error {100 * each.error:.1f} %, at the least {100 * each.least:.1f} %; held in {100 * each.held:.0f} %"
        results.append(line(f"{each.scenario}: uptake", told, each.error, max(3 * each.least, 0.07)))
        # Where the rate is as near as the readings allow, or they are four, so is the forecast.
        bar = 1.0 if each.error <= each.least or each.scenario == "few readings" else 0.7
        week = f"of the better of staying and a line; held in {100 * each.sure:.0f} %"
        results.append(line("  a week ahead", week, each.ahead, bar))
        sure.append(each.sure)
    typed = asked(RUNS // 3)
    results.append(line("sound results asked about", f"{100 * typed.sound:.1f} %", typed.sound, 0.01))
    kinds = ", ".join(f"{how} {100 * share:.0f} %" for how, share in typed.wrong.items())
    results.append(line("typing errors not asked about", kinds, 1 - statistics.fmean(typed.wrong.values()), 0.25))
    seen = noticed(RUNS // 5)
    result = f"after {seen.median_days:.0f} days, within twelve in {100 * seen.within_12:.0f} %"
    results.append(line("steps of a third not noticed in 12 days", result, 1 - seen.within_12, 0.15))
    false = ", ".join(f"{what} {times:.2f}" for what, times in seen.false.items()) or "nothing"
    results.append(line("said for nothing in a tank-year", false, sum(seen.false.values()), 0.7))
    mean = statistics.fmean(sure)
    results.append(line("forecasts' intervals, off 0.81", f"held in {100 * mean:.0f} %", abs(mean - 0.81), 0.07))
    mean = statistics.fmean(held)
    results.append(line("80 % intervals, all of them, off 0.81", f"held in {100 * mean:.0f} %", abs(mean - 0.81), 0.07))
    return results


DOSING_RUNS, SPREADS = 20, 12


def dosing_lines() -> list[bool]:
    """Sixty days of dosing with and without the program's advice, and pH against an exhaustive search; all seeded."""
    results = []
    for loss in (True, False):
        alone, found = (kept_by_dosing(DOSING_RUNS, loss, advised) for advised in (False, True))
        what = "a head loses a fifth" if loss else "sound pumps"
        days = (
            f"{100 * found.alkalinity:.0f} % of days (worst {100 * found.worst:.0f}), else {100 * alone.alkalinity:.0f}"
        )
        results.append(line(f"{what}: days off 0.5 dKH", days, 1 - found.alkalinity, 0.1))
        days = f"{100 * found.calcium:.0f} % of days, else {100 * alone.calcium:.0f}"
        results.append(line("  days off 20 mg/L of calcium", days, 1 - found.calcium, 0.1))
        if loss:
            named = f"{found.named} of {found.runs} within 14 days, slowest {found.slowest:.1f}"
            results.append(line("  losses not named", named, 1 - found.named / found.runs, 0.05))
        results.append(
            line("  runs with a false alarm", f"{found.accused} of {found.runs}", found.accused / found.runs, 0.05)
        )
    for one in spreads(SPREADS):
        what = f"pH of system {one.seed}, {one.parts} part{'s' if one.parts > 1 else ''}"
        swing = f"swing {one.before:.3f}, proposed {one.proposed:.3f}, least {one.least:.3f}"
        results.append(line(what, swing, 1 - one.reached, 0.2))
    return results


def rota_lines() -> list[bool]:
    """Twelve weeks of twenty systems with thirty tasks each: evenness, time, and what one move changes; seeded."""
    found = trial()
    peak = f"{found.peak:.0f} min, bound {found.bound:.0f}, without the solver {found.fallback:.0f}"
    spent = f"{found.placed_s:.1f} s for {found.pieces} pieces, relaxation {found.relaxed_s:.1f} s"
    return [
        line("fullest day of 12 weeks, by its bound", peak, found.peak / found.bound, 1.1),
        line("later than without the solver", f"{found.later} of {found.pieces}", found.later, 0),
        line("placed, by its relaxation", spent, found.placed_s / found.relaxed_s, 20),
        line("changed by one move", f"{100 * found.moved:.1f} % of placings", found.moved, 0.05),
        *calm_lines(),
    ]


def calm_lines() -> list[bool]:
    """What forty random acts move besides their own tasks, and how full the days are after nine days alone."""
    calm, days = random_acts(40), left_alone()
    spread = f"first days {', '.join(f'{minutes} of {room}' for minutes, room in days[:4])} min"
    over = sum(minutes > 1.5 * room for minutes, room in days)
    return [
        line("others moved by an act, 95th percentile", f"median {calm.percentile(50)}", calm.percentile(95), 2),
        line("gained by today's list", f"most moved {max(calm.others)}", calm.gained, 0),
        line("days too full after nine alone", spread, over, 1),
    ]


def forecast_ratio() -> tuple[float, float]:
    """Seconds of a bare daily recursion over vectors for 90 days, and of a system's state and 90-day forecast of all
    its parameters under its plan; the rates are told already, as they are in the running program."""
    import numpy as np

    from salttide.core.estimate.forecast import expect
    from salttide.core.estimate.rate import rate_of
    from salttide.core.ledger.balance import present_water
    from salttide.household.memo import Memo

    database = Database(demo_database())
    household = Memo(database).household(NOW)
    book = household.recorded(household.stored.systems[0], NOW - timedelta(days=90))
    rates = {parameter: rate_of(book, parameter, NOW) for parameter in present_water(book)}
    changes = [Change(NOW + timedelta(days=day), 40, 40, dict.fromkeys(rates, 1.0)) for day in range(3, 90, 7)]
    plan = Plan(changes, daily_as_recorded(book, NOW))
    database.close()
    count = len([p for p in rates if FACTS[p].dissolved])
    made, kept, brought = np.full(count, 0.01), np.full(count, 0.98), np.full(count, 0.02)

    def bare() -> Any:
        value = np.ones(count)
        for _ in range(90):
            value = (value + made) * kept + brought
        return value

    def ours() -> Any:
        present_water(book)
        return expect(book, rates, plan, NOW, NOW + timedelta(days=90))

    return quickest(bare, 50), quickest(ours, 50)


def core_lines() -> list[bool]:
    """The core's own measures."""
    bare, expected = forecast_ratio()
    theirs, ours = density_ratio()
    (one_theirs, one_ours), (many_theirs, many_ours) = carbonate_ratios()
    numpy, core, whole = import_seconds()
    tried = mutate(MUTANTS)
    alive = [one for one in tried if not one.seen and not one.equal]
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
        line("90 days, a bare recursion", f"{expected * 1e3:.2f} ms against {bare * 1e3:.3f} ms", expected / bare, 20),
        line("import of the core, NumPy", f"{core:.3f} s against {numpy:.3f} s", core / numpy, 3),
        line("every name of the core, NumPy", f"{whole:.3f} s against {numpy:.3f} s", whole / numpy, WHOLE_BAR),
        line("changed places not noticed", f"{len(alive)} of {len(tried)}", len(alive), UNNOTICED_SHARE * len(tried)),
    ]


def page_lines(server: Server) -> list[bool]:
    """What each page costs, in empty requests: after something was recorded, again, and by its ETag."""
    results = []
    for name, cost in costs(server).items():
        for turn, seconds, bar in (
            ("first", cost.first, PAGES[name][1]),
            ("again", cost.again, AGAIN_BAR),
            ("304", cost.same, SAME_BAR),
        ):
            measured = f"{seconds * 1000:.2f} ms against {cost.empty * 1000:.2f} ms"
            results.append(line(f"{name}, {turn}", measured, seconds / cost.empty, bar))
    return results


def line(name: str, measured: str, ratio: float, bar: float) -> bool:
    """Print one result against its bar."""
    met = ratio <= bar
    print(f"{name:40}{measured:46}{ratio:8.2f}   at most {bar:g}   {'met' if met else 'NOT MET'}", flush=True)
    return met


def programme_lines(tanks: int = 60) -> list[bool]:
    """Tanks overgrown by each kind: nearly clear in the stated weeks by its programme, and the usual way."""
    found = []
    for key in KINDS:
        weeks = programmes()[key].weeks
        mine = [followed(key, seed, weeks * 7) for seed in range(tanks)]
        usual = sum(the_usual_way(key, seed, weeks * 7).under(weeks) for seed in range(tanks))
        clear = sum(one.under(weeks) for one in mine)
        said = f"{clear} of {tanks} in {weeks} weeks, {usual} the usual way"
        found.append(line(f"{key}: left over", said, 1 - clear / tanks, 0.2))
        found.append(line(f"{key}: at the floor", "acts of export", sum(one.stripped for one in mine), 0))
    return found


def failure_lines() -> list[bool]:
    """Failures of forty tanks, played in water and heat: how many sizes were told wrong by more than 15 %."""
    pairs = played_failures()
    wrong = sum(not one.near for one in pairs)
    return [line("failures: told wrong", f"{wrong} of {len(pairs)} sizes", wrong / len(pairs), 0.02)]


def remedy_lines(server: Server, tanks: int = 12) -> list[bool]:
    """Half a year of twelve tanks by the first remedy against the usual way, and what all remedies cost to ask for."""
    with ProcessPoolExecutor() as pool:
        advised = list(pool.map(remedy_run, range(tanks), [True] * tanks))
        usual = list(pool.map(remedy_run, range(tanks), [False] * tanks))
    out, before = (sum(one.out_days for one in all_of) for all_of in (advised, usual))
    minutes, spent = (sum(one.minutes for one in all_of) for all_of in (advised, usual))
    litres, grams = sum(one.litres for one in advised), sum(one.grams for one in advised)
    within = sum(one.within for one in advised) / tanks
    acts = f"{sum(one.acts for one in advised)} acts, {litres:.0f} L, {grams:.0f} g"
    others = (
        f"{sum(one.acts for one in usual)}, {sum(u.litres for u in usual):.0f} L, {sum(u.grams for u in usual):.0f} g"
    )
    empty, same, anew = remedy_costs(server)
    return [
        line("remedies followed, days out of band", f"{100 * within:.1f} % in band", 1 - within, 0.05),
        line("against the usual way, days out", f"{out} against {before}", out / max(before, 1), 0.6),
        line("minutes against the usual way", f"{minutes:.0f} against {spent:.0f}; {acts}; usual {others}",
             minutes / spent, 1.0),
        line("daily limits broken", f"the usual way {sum(len(one.broken) for one in usual)}",
             float(sum(len(one.broken) for one in advised)), 0.5),
        line("all causes, nothing changed", f"{same * 1000:.2f} ms against {empty * 1000:.2f} ms", same / empty, 5),
        line("all causes, everything changed", f"{anew:.2f} s", anew, 1.0),
    ]  # fmt: skip


def found_plan_line(plans: int = 30) -> bool:
    """Found plans with every rate a tenth off: those that leave a band before a test would show it."""
    found = found_plans(plans)
    measured = f"{found.unnoticed} of {found.plans} plans"
    return line("found plans with rates a tenth off", measured, found.unnoticed / max(found.plans, 1), 0.1)


def remedy_costs(server: Server, rounds: int = 40) -> tuple[float, float, float]:
    """Median seconds of an empty request, and of the judgement with its remedies of a system when nothing changed; and
    seconds for those of all systems together after a change in each."""
    address = urlparse(server.url)
    connection = http.client.HTTPConnection(address.hostname or "", address.port)

    def ask(method: str, path: str, body: str | None = None) -> None:
        headers = {"Content-Type": "application/json", "Idempotency-Key": f"remedy-{time.perf_counter_ns()}"}
        connection.request(method, path, body, headers)
        answer = connection.getresponse()
        assert answer.read() is not None
        assert answer.status < 300, answer.status

    pages = [f"/api/systems/{number}/judgement" for number in (1, 2, 3, 4)]
    for page in pages:
        ask("GET", page)
    empty = statistics.median(clocked(lambda: ask("GET", "/api/health")) for _ in range(rounds))
    same = statistics.median(clocked(lambda: ask("GET", pages[0])) for _ in range(rounds))
    for number in (1, 2, 3, 4):
        body = json.dumps({"rows": [{"parameter": "temperature", "text": "25.4"}]})
        ask("POST", f"/api/systems/{number}/bench", body)
    anew = sum(clocked(lambda page=page: ask("GET", page)) for page in pages)  # type: ignore[misc]
    connection.close()
    return empty, same, anew


def poison_line() -> bool:
    """Every hostile variant of every body, as `tests.api.test_poison` tries them one by one."""
    begun = time.perf_counter()
    failed = subprocess.run([sys.executable, "-m", "tests.api.test_poison"], cwd=ROOT, check=False).returncode
    measured = f"{time.perf_counter() - begun:.0f} s, {'with faults' if failed else 'no fault'}"
    return line("poison, all variants", measured, float(failed != 0), 0.5)


def main() -> int:
    alone, whole = start_ratio()
    results = [line("start to first answer", f"{whole:.3f} s against {alone:.3f} s", whole / alone, START_BAR)]
    results += core_lines()
    results += backtest_lines()
    results += dosing_lines()
    results += scale_lines()
    results += rota_lines()
    results.append(poison_line())
    bare, whole = readings_ratio(MILLION)
    measured = f"{whole:.1f} s against {bare:.1f} s"
    results.append(line("import of 1 000 000 readings", measured, whole / bare, IMPORT_BAR))
    server = Server(demo_database())
    try:
        idle, read, write = answers_meanwhile(server, MILLION // 4)
        for name, seconds in (("a record read", read), ("a happening kept", write)):
            measured = f"p95 {seconds * 1000:.1f} ms against {idle * 1000:.2f} ms"
            results.append(line(f"{name} during an import", measured, seconds / idle, MEANWHILE_BAR))
        results += page_lines(server)
        results += remedy_lines(server)
        results += programme_lines()
        results += failure_lines()
        results.append(found_plan_line())
        empty, preview = preview_ratio(server)
        measured = f"p95 {preview * 1000:.2f} ms against {empty * 1000:.2f} ms"
        results.append(line("plan preview, empty request", measured, preview / empty, PREVIEW_BAR))
        empty, tried = dragged_ratio(server)
        measured = f"p95 {tried * 1000:.2f} ms against {empty * 1000:.2f} ms"
        results.append(line("dragged preview, empty request", measured, tried / empty, 20))
        for name, path in (("Harbour", "/"), ("Sheet", "/systems/1/sheet"), ("Dosing", "/systems/1/dosing")):
            size = script_bytes(server, path)
            bar = SCRIPT_BARS[name]
            results.append(line(f"scripts of {name}, gzipped", f"{size / 1000:.1f} kB", size / 1000, bar / 1000))
    finally:
        server.stop()
    return 0 if all(results) else 1


if __name__ == "__main__":
    sys.exit(main())
