"""The command line: serve, demo, a simulated controller, sums, openapi."""

from __future__ import annotations

import asyncio
import contextlib
import gc
import json
import os
import socket
import sys
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

import typer

from salttide.clock import Clock
from salttide.core.basics.errors import SaltTideError
from salttide.guard import LOOPBACK
from salttide.settings import Settings, settings

if TYPE_CHECKING:
    from collections.abc import Iterator

    from fastapi import FastAPI
    from starlette.types import ASGIApp

    from salttide.core.jot.answer import Answer, JotContext

main = typer.Typer(add_completion=False, no_args_is_help=True, help="Salt Tide on this machine.")
DEMO_DATABASE = Path("build") / "demo.db"


@main.command()
def serve() -> None:
    """Serve the keeper's own database."""
    chosen = _settings()
    _serve(chosen, chosen.database, None, f"your database: {chosen.database}", example=True)


@main.command()
def demo(
    fresh: bool = typer.Option(False, help="Start over with fresh demo data."),
    run_clock: bool = typer.Option(False, help="Let the demo clock run on from its pinned moment."),
    database: Path = typer.Option(DEMO_DATABASE, help="Where the demo data are."),
) -> None:
    """Serve the demo household, its clock set to a fixed moment. SALTTIDE_DATABASE names your own data and is left
    alone: --database says where the demo data go."""
    from salttide.clock import PinnedClock
    from salttide.demo.household import NOW, make_household

    if os.environ.get("SALTTIDE_DATABASE") and database != Path(os.environ["SALTTIDE_DATABASE"]):
        typer.echo(f"SALTTIDE_DATABASE is yours and is left alone; the demo data are in {database}.", err=True)
    chosen = _settings()
    try:
        made = make_household(database, fresh=fresh)
    except SaltTideError as error:
        raise _cannot_start(error) from error
    note = "demo data made" if made else "demo data as you left it; --fresh starts over"
    _serve(chosen, database, PinnedClock(NOW, run_clock), note)


@main.command()
def controller(
    port: int = typer.Option(8790, min=1, max=65535, help="Where it answers."),
    fault: str = typer.Option("", help="What is broken from the start."),
    speed: float = typer.Option(1.0, min=0.1, max=10_000, help="Seconds of its time in a second."),
) -> None:
    """A simulated controller with probes, to try alarms with: enter its address on the page Alarms of a system."""
    import time

    from salttide.fishroom.controller import FAULTS, Device, controller_server

    device = Device()
    try:
        device.breaks(fault)
    except ValueError as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(2) from error
    try:
        server = controller_server(device, port, lambda: time.monotonic() * speed)
    except OSError as error:
        typer.echo(f"port {port} cannot be opened: {error.strerror}", err=True)
        raise typer.Exit(1) from error
    print(f"A simulated controller answers at http://127.0.0.1:{port}/   (Ctrl-C ends it)", flush=True)
    print(f"""Break something: curl -d '{{"fault": "heater_on"}}' http://127.0.0.1:{port}/fault""", flush=True)
    print(f"Faults: {', '.join(FAULTS)}; an empty one mends everything", flush=True)
    with server, contextlib.suppress(KeyboardInterrupt):
        server.serve_forever()


@main.command()
def rescue(
    database: Path,
    folder: Path,
) -> None:
    """Save what can still be read of a damaged database, one CSV file per table; the database is not changed."""
    from salttide.store.rescue import rescue_tables

    try:
        for line in rescue_tables(database, folder):
            print(line)
    except SaltTideError as error:
        typer.echo(error.message, err=True)
        raise typer.Exit(1) from error


@main.command(name="sum")
def answer_sum(
    text: str = typer.Argument(help="A line that begins with =, such as “= salt for 60 l to 35”."),
    working: bool = typer.Option(False, "--working", "-w", help="Show how it was computed."),
    database: Path | None = typer.Option(None, help="Whose systems and salts are meant; your own if left out."),
) -> None:
    """Answer a sum. The word sum may be left out: salttide "= 8 dkh in meq/l"."""
    from salttide.core.jot.answer import JotContext
    from salttide.core.jot.reader import JotError
    from salttide.core.jot.sums import answer

    path = database or settings().database
    try:
        context = _jot_context(path) if path.exists() else JotContext()
        found = answer(text, context)
    except JotError as error:
        typer.echo(f"{text}\n{' ' * error.start}{'^' * max(1, error.end - error.start)}\n{error.message}", err=True)
        raise typer.Exit(2) from error
    except SaltTideError as error:
        typer.echo(error.message, err=True)
        raise typer.Exit(1) from error
    print("\n".join(_answer_lines(found, working)))


def _jot_context(path: Path) -> JotContext:
    from contextlib import closing

    from salttide.clock import MachineClock
    from salttide.household.memo import Memo
    from salttide.store.database import Database

    with closing(Database(path)) as opened:
        return Memo(opened).household(MachineClock().now()).jot_context()


def _answer_lines(found: Answer, working: bool) -> Iterator[str]:
    from salttide.core.basics.number_text import significant
    from salttide.core.system.catalogue import cautions

    yield found.text
    yield found.understood
    yield from found.notes
    for key in found.cautions:
        yield f"Caution: {cautions()[key].title}. {cautions()[key].text}"
    for step in found.working if working else ():
        inputs = ", ".join(f"{name} {significant(given.value)} {given.unit}".strip() for name, given in step.inputs)
        yield f"  {step.symbol} = {step.formula} = {significant(step.value)} {step.unit}   ({inputs}; {step.source})"


@main.command(name="import-run", hidden=True)
def import_run(
    database: Path,
    command: str,
    now: str,
    keep: bool = typer.Option(False, "--keep/--check"),
) -> None:
    """Read an uploaded file in a process of its own."""
    from contextlib import closing
    from datetime import datetime

    from salttide.files.importing import run
    from salttide.store.database import Database

    if not database.exists():
        return
    with closing(Database(database)) as opened:
        run(opened, command, datetime.fromisoformat(now), keep)


@main.command()
def openapi() -> None:
    """Print the description of the API."""
    import tempfile

    from salttide.app import make_app

    with tempfile.TemporaryDirectory() as folder:
        app = make_app(Path(folder) / "empty.db", build=None)
        json.dump(app.openapi(), sys.stdout, indent=1, ensure_ascii=False)
        app.state.database.close()


def entry() -> None:
    """The command `salttide`: a line that begins with = is a sum."""
    if len(sys.argv) > 1 and sys.argv[1].lstrip().startswith("="):
        sys.argv.insert(1, "sum")
    main(prog_name="salttide")


def _cannot_start(error: SaltTideError) -> typer.Exit:
    typer.echo(f"Salt Tide cannot start: {error.message}", err=True)
    return typer.Exit(1)


def _settings() -> Settings:
    try:
        chosen = settings()
    except SaltTideError as error:
        raise _cannot_start(error) from error
    if not is_loopback(chosen.host) and not chosen.trust_network:
        typer.echo(
            f"Salt Tide cannot start: SALTTIDE_HOST is {chosen.host}, and Salt Tide has no log-in. Whoever reaches "
            "that address could read and change everything. Where you trust everybody on that network, set "
            "SALTTIDE_TRUST_NETWORK=yes; for carers and calendars open SALTTIDE_VISITORS_HOST alone.",
            err=True,
        )
        raise typer.Exit(1)
    return chosen


def is_loopback(host: str) -> bool:
    """Whether a host is reachable from this machine only."""
    return host in LOOPBACK or host.startswith("127.")


def _serve(chosen: Settings, database: Path, clock: Clock | None, note: str, example: bool = False) -> None:
    """Serve a database until it is ended. example: with the example household beside it."""
    import uvicorn

    from salttide.app import BUILD, make_app
    from salttide.example import WithExample

    port = _free_port(chosen.host, chosen.port)
    visitors = _free_port(chosen.visitors_host, chosen.visitors) if chosen.visitors else 0
    outside = urlsplit(chosen.visitors_url).hostname
    hosts = [chosen.host, *chosen.hosts, *([chosen.visitors_host] if visitors else []), *([outside] if outside else [])]
    links = chosen.visitors_url or (f"http://{chosen.visitors_host}:{visitors}" if visitors else "")
    try:
        app = make_app(
            database,
            clock,
            hosts=hosts,
            links=links or f"http://{chosen.host}:{port}",
            mail_password=chosen.mail_password,
            watch=True,
        )
    except SaltTideError as error:
        raise _cannot_start(error) from error
    if app.state.database.damaged:
        typer.echo(f"The database is damaged: {app.state.database.damaged}. It is opened for reading only.", err=True)
        typer.echo(f"To take out what can be read: salttide rescue {database} FOLDER", err=True)
    gc.freeze()
    gc.enable()
    print(f"Salt Tide  http://{chosen.host}:{port}/   ({note}; Ctrl-C ends it)", flush=True)
    own: ASGIApp = WithExample(app, BUILD) if example else app
    if not chosen.visitors:
        uvicorn.run(own, host=chosen.host, port=port, log_level="warning")
        return
    print(f"For carers and calendars only  http://{chosen.visitors_host}:{visitors}/", flush=True)
    asyncio.run(_serve_both(own, app, (chosen.host, port), (chosen.visitors_host, visitors)))


async def _serve_both(whole: ASGIApp, app: FastAPI, own: tuple[str, int], others: tuple[str, int]) -> None:
    """Serve the whole app at one address, and only the paths for others at a second."""
    import uvicorn

    from salttide.app import for_visitors

    places = ((whole, *own, "auto"), (for_visitors(app), *others, "off"))
    servers = [
        uvicorn.Server(uvicorn.Config(each, host=host, port=number, log_level="warning", lifespan=lifespan))  # type: ignore[arg-type]
        for each, host, number, lifespan in places
    ]
    first, second = (asyncio.create_task(server.serve()) for server in servers)
    # When one ends, so does the other.
    await asyncio.wait((first, second), return_when=asyncio.FIRST_COMPLETED)
    for server in servers:
        server.should_exit = True
    await asyncio.gather(first, second)


def _free_port(host: str, wanted: int) -> int:
    """The wanted port, or the next free one."""
    for port in range(wanted, min(wanted + 50, 65536)):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError:
                continue
            return port
    typer.echo(f"Salt Tide cannot start: {host} has no free port from {wanted} to {wanted + 49}", err=True)
    raise typer.Exit(1)
