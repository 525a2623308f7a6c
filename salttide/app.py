"""The web application: routers, problem answers, and the built front end."""

from __future__ import annotations

import sqlite3
from collections.abc import AsyncIterator, Collection
from contextlib import asynccontextmanager, suppress
from pathlib import Path

from fastapi import FastAPI, Response
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Receive, Scope, Send

from salttide import __version__
from salttide.answers import Answers
from salttide.api import (
    alarm,
    batch,
    bench,
    calendar,
    change,
    changed,
    confidence,
    container,
    correction,
    cycling,
    daynight,
    dosing,
    dosing_answer,
    emergency,
    errors,
    failure,
    finder,
    fresh_water,
    gear,
    handover,
    harbour,
    importing,
    inspection,
    instrument,
    jot,
    judgement,
    keeper,
    kit,
    light,
    livestock,
    log,
    minutes,
    mix,
    picture,
    plan,
    probe,
    problems,
    programme,
    push,
    record,
    remedy,
    rota,
    rounds,
    routine,
    runbook,
    salt,
    schedule,
    search,
    setup,
    sheet,
    shelf,
    start,
    stock,
    system,
    topoff,
    trouble,
    unexplained,
    upkeep,
    visit,
    whatif,
    workload,
)
from salttide.clock import Clock, MachineClock
from salttide.core.basics.errors import DamagedError
from salttide.files.importing import sweep
from salttide.guard import Guard
from salttide.household.memo import Memo
from salttide.store.database import Database
from salttide.store.importing import stop_left_over
from salttide.store.shelf import keeper as keeper_settings
from salttide.watchman import Watchman

PARTS = (
    harbour, bench, inspection, judgement, unexplained, confidence, cycling, change, routine, plan, probe, minutes,
    calendar, gear, handover, visit, upkeep, rounds, rota, workload, changed,
    runbook, mix, batch, kit, sheet,
    start, setup, system, emergency, failure, topoff, trouble, programme, remedy, record, log, search, importing,
    whatif, finder, fresh_water,
    shelf, salt, livestock, light, instrument, picture, keeper, jot, dosing, dosing_answer, correction, daynight,
    container, schedule, stock, alarm, push,
)  # fmt: skip
BUILD = Path(__file__).resolve().parent.parent / "web" / "dist"


def make_app(
    database: Path,
    clock: Clock | None = None,
    build: Path | None = BUILD,
    hosts: Collection[str] = (),
    links: str = "",
    mail_password: str = "",
    watch: bool = False,
) -> FastAPI:
    """The application on one database file.

    build: the folder of the front end, None to leave it out · hosts: names it may be asked by, besides this machine's
    own · links: what the addresses begin with that are given to carers and calendars; the asker's own where empty ·
    mail_password: of the server that sends alarms · watch: whether alarms are watched while the application runs.
    """

    app = begin(routed(build), database, clock, hosts, links)
    app.state.mail_password = mail_password
    if watch:
        app.state.watchman = Watchman(app.state.memo, app.state.clock, mail_password, links)
    return app


def routes(build: Path | None) -> FastAPI:
    """All operations, on no database yet."""
    app = FastAPI(
        title="Salt Tide",
        version=__version__,
        lifespan=_life,
        docs_url=None,
        redoc_url=None,
        generate_unique_id_function=problems.operation_id,
    )
    errors.install(app)
    for part in PARTS:
        app.include_router(part.router)
    app.include_router(problems.router)
    problems.describe(app)
    app.get("/api/health", tags=["health"])(health)
    app.api_route("/api/{path:path}", methods=["GET", "POST", "PUT", "DELETE"], include_in_schema=False)(_nothing)
    if build and (build / "index.html").exists():
        app.frontend("/", directory=build, fallback="index.html")
    return app


routed = routes
"""Where the routes of an application come from."""


def begin(
    app: FastAPI, database: Path, clock: Clock | None = None, hosts: Collection[str] = (), links: str = ""
) -> FastAPI:
    """Let an application work on a database, and on no other from now on."""
    _open(app, database, clock or MachineClock(), links)
    app.user_middleware.clear()
    app.middleware_stack = None
    _stand_around(app, hosts)
    return app


@asynccontextmanager
async def _life(app: FastAPI) -> AsyncIterator[None]:
    if app.state.watchman:
        app.state.watchman.begin()
    yield
    if app.state.watchman:
        app.state.watchman.end()
    # Where it cannot be stored now, what was shown is computed again by the same rules.
    with suppress(sqlite3.Error, DamagedError), app.state.database.write() as connection:
        app.state.memo.settle(connection, app.state.clock.now())
    app.state.database.close()


def _open(app: FastAPI, database: Path, clock: Clock, links: str) -> None:
    """Open the database, and set up what is kept beside it while the program runs."""
    app.state.database = Database(database)
    if not app.state.database.damaged:
        with app.state.database.write() as connection:
            stop_left_over(connection)
        sweep(app.state.database, clock.now())
    app.state.memo = Memo(app.state.database)
    app.state.keeper = keeper_settings(app.state.database.connection)
    app.state.links, app.state.clock, app.state.example = links, clock, False
    app.state.mail_password, app.state.watchman = "", None


def _stand_around(app: FastAPI, hosts: Collection[str]) -> None:
    """Put the middleware around the routers, from the inside out."""
    app.add_middleware(Answers, standing=lambda: _standing(app))
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=5)
    app.add_middleware(Guard, writing=lambda: app.state.keeper.writing, hosts=hosts)


def _standing(app: FastAPI) -> tuple[object, ...]:
    """What every answer depends on: everything written so far, and the minute."""
    now = app.state.clock.now()
    return app.state.database.version(), now.replace(second=0, microsecond=0)


VISITORS = ("/visit/", "/api/visits/", "/api/push/", "/calendar/", "/assets/", "/mark.svg")
"""Paths for people other than the keeper: carers' pages, the calendar, the files of
these pages, and what a controller sends."""


def for_visitors(app: ASGIApp) -> ASGIApp:
    """The same application with only the paths for others."""

    async def some(scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and not scope["path"].startswith(VISITORS):
            await Response("Nothing is here.", 404, media_type="text/plain")(scope, receive, send)
        else:
            await app(scope, receive, send)

    return some


async def health() -> dict[str, str]:
    """The emptiest answer: the server is up."""
    return {"salttide": __version__}


async def _nothing(path: str) -> None:
    raise HTTPException(404)
