"""Server processes, each forked from one that has loaded and warmed up the program: `python -m tests.served DATABASE`.

A line of JSON asks for one: its arguments, its environment, and the file for what it prints; the answer is its number.
How the program starts by itself is tested elsewhere.
"""

from __future__ import annotations

import gc
import json
import os
import shutil
import signal
import sys
import tempfile
from pathlib import Path

from fastapi import FastAPI

from salttide.household.memo import Memo
from salttide.store.database import Database
from tests.stage import begin_as

PAGES = (
    "health",
    "harbour",
    "rota",
    "rota/year",
    "mix",
    "systems/1/sheet",
    "systems/1/change",
    "systems/1/dosing",
    "shelf",
)


def warm(database: Path) -> FastAPI:
    """An application with what a page needs loaded, and with what is worked out once worked out."""
    import uvicorn
    from fastapi.testclient import TestClient

    import salttide.cli  # noqa: F401 - loaded for all that are forked
    from salttide.app import BUILD, make_app
    from salttide.clock import PinnedClock
    from salttide.demo.household import NOW

    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "warm.db"
        shutil.copyfile(database, copy)
        app = make_app(copy, PinnedClock(NOW), BUILD)
        api = TestClient(app)
        for page in PAGES:
            api.get(f"/api/{page}").raise_for_status()
        app.state.database.close()
    uvicorn.Config(app).load()
    return app


def begin_with(warm: FastAPI) -> None:
    """Let every program from here on have the same routes, and begin with what is kept of the same data."""
    from salttide import app as program

    plain, memo = Memo.__init__, warm.state.memo

    def begin(self: Memo, database: Database) -> None:
        plain(self, database)
        begin_as(memo, self)

    Memo.__init__ = begin  # type: ignore[method-assign]
    program.routed = lambda build: warm


def serve(arguments: list[str], environment: dict[str, str], output: str) -> None:
    """Be a server, in a process that was just forked."""
    from salttide.cli import entry

    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    quiet, said = os.open(os.devnull, os.O_RDWR), os.open(output, os.O_WRONLY | os.O_CREAT | os.O_TRUNC)
    for number, file in enumerate((quiet, said, quiet)):
        os.dup2(file, number)
    os.environ.clear()
    os.environ.update(environment)
    sys.argv[1:] = arguments
    entry()


def main() -> None:
    begin_with(warm(Path(sys.argv[1])))
    gc.collect()
    gc.freeze()
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    print("ready", flush=True)
    for line in sys.stdin:
        number = os.fork()
        if not number:
            try:
                serve(**json.loads(line))
            finally:
                os._exit(1)
        print(number, flush=True)


if __name__ == "__main__":
    main()
