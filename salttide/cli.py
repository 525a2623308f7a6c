"""The command line: serve, demo, openapi."""

from __future__ import annotations

import json
import socket
import sys
from pathlib import Path

import typer

from salttide.clock import Clock
from salttide.core.errors import SaltTideError
from salttide.settings import settings

main = typer.Typer(add_completion=False, no_args_is_help=True, help="Salt Tide on this machine.")
DEMO_DATABASE = Path("build") / "demo.db"


@main.command()
def serve() -> None:
    """Serve the keeper's own database."""
    chosen = settings()
    _serve(chosen.database, None, f"your database: {chosen.database}")


@main.command()
def demo(
    fresh: bool = typer.Option(False, help="Make the demo data anew."),
    run_clock: bool = typer.Option(False, help="Let the demo clock run on from its pinned moment."),
    database: Path = typer.Option(DEMO_DATABASE, help="Where the demo data are."),
) -> None:
    """Serve the demo household, whose clock stands at its pinned moment."""
    from salttide.clock import PinnedClock
    from salttide.demo.household import NOW, make_household

    made = make_household(database, fresh=fresh)
    note = "demo data made" if made else "demo data as you left it; --fresh makes it anew"
    _serve(database, PinnedClock(NOW, run_clock), note)


@main.command()
def openapi() -> None:
    """Print the description of the API."""
    import tempfile

    from salttide.app import make_app

    with tempfile.TemporaryDirectory() as folder:
        app = make_app(Path(folder) / "empty.db", build=None)
        json.dump(app.openapi(), sys.stdout, indent=1, ensure_ascii=False)
        app.state.database.close()


def _serve(database: Path, clock: Clock | None, note: str) -> None:
    import uvicorn

    from salttide.app import make_app

    try:
        app = make_app(database, clock)
    except SaltTideError as error:
        typer.echo(f"Salt Tide cannot start: {error.message}", err=True)
        raise typer.Exit(1) from error
    chosen = settings()
    port = _free_port(chosen.host, chosen.port)
    print(f"Salt Tide  http://{chosen.host}:{port}/   ({note}; Ctrl-C ends it)", flush=True)
    uvicorn.run(app, host=chosen.host, port=port, log_level="warning")


def _free_port(host: str, wanted: int) -> int:
    """The wanted port, or the next free one."""
    for port in range(wanted, wanted + 50):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError:
                continue
            return port
    typer.echo(f"no free port from {wanted} to {wanted + 49}", err=True)
    raise typer.Exit(1)
