"""Import of readings: a file is uploaded, mapped, checked and saved, with progress; stopped or undone as one."""

import secrets
import subprocess
import sys
from datetime import UTC
from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi import Path as PathParameter
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import clock_words, counted, date_words
from salttide.core.basics.refused import refused
from salttide.core.science.parameters import FACTS, Parameter, spoken
from salttide.core.science.units import UNITS, show
from salttide.files.importing import kept_map, read_map, run, sweep
from salttide.files.readings import DATE_FORMATS, ROLES, ColumnMap, check_map, guess
from salttide.files.table import Line, lines_of, shape_of
from salttide.store import importing as store
from salttide.store.database import to_moment, to_text

from .context import Context, In, Key, context
from .models import Model, RequestModel

router = APIRouter(prefix="/api/imports", tags=["imports"])
LARGEST = 400_000_000
SMALL = 400_000
"""The largest file, in bytes, that is read while the keeper waits; a larger one gets a process of its own."""
Command = Annotated[str, PathParameter(min_length=1, max_length=100)]


class MapBody(RequestModel):
    """How the columns are to be read."""

    columns: dict[str, str] = Field(max_length=200)
    units: dict[str, str] = Field(default_factory=dict, max_length=200)
    dates: str = Field(default="iso", max_length=10)
    decimal: DecimalSign = DecimalSign.POINT
    system: str = Field(default="", max_length=60)
    instrument: str = Field(default="", max_length=60)
    parameter: str = Field(default="", max_length=30)
    unit: str = Field(default="", max_length=20)
    keep_as: str = Field(default="", max_length=60)

    def read(self) -> ColumnMap:
        """The mapping as the file reader takes it."""
        return ColumnMap(**self.model_dump(exclude={"keep_as"}))


class BadRow(Model):
    """A rejected row, with its line and the reason."""

    line: int
    reason: str


class FirstRow(Model):
    """A row as it was understood."""

    when: str
    system: str
    what: str
    instrument: str


class ImportShown(Model):
    """One import as it is."""

    id: str
    name: str
    state: str
    share: float
    good: int
    twice: int
    bad: int
    bad_rows: list[BadRow]
    first_rows: list[FirstRow]
    said: str
    header: list[str]
    sample: list[list[str]]
    mapping: MapBody
    fitting: dict[str, MapBody]
    probes: list[str]


class ImportChoices(Model):
    """What a column can be, and the latest imports."""

    roles: list[str]
    dates: dict[str, str]
    parameters: dict[str, str]
    units: dict[str, list[str]]
    imports: list[ImportShown]


@router.get("")
def imports(ctx: In) -> ImportChoices:
    """The latest imports, and what columns can be."""
    return ImportChoices(
        roles=list(ROLES),
        dates=DATE_FORMATS,
        parameters={parameter: FACTS[parameter].name for parameter in Parameter},
        units={parameter: [unit.key for unit in UNITS[parameter] if unit.key] for parameter in Parameter},
        imports=[_shown(ctx, item, sample=False) for item in store.all_imports(ctx.connection, 8)],
    )


@router.post("", status_code=201)
async def upload(request: Request, key: Key, name: str = Query("readings.csv", max_length=200)) -> ImportShown:
    """Upload a file as the body of the request. Nothing enters the ledger yet."""
    ctx = context(request)
    folder = ctx.database.path.parent / "imports"
    path = folder / f"{secrets.token_hex(12)}.part"
    await run_in_threadpool(folder.mkdir, parents=True, exist_ok=True)
    await run_in_threadpool(sweep, ctx.database, ctx.now)
    try:
        size = 0
        with path.open("wb") as file:
            async for piece in request.stream():
                size += len(piece)
                if size > LARGEST:
                    raise refused(
                        "importing.the_file_is_too_large",
                        "file",
                        takes=phrase("importing.up_to_mb", LARGEST=LARGEST // 1000000),
                    )
                await run_in_threadpool(file.write, piece)
        return await run_in_threadpool(_brought, ctx, key, Path(name.replace("\\", "/")).name or "file", path, size)
    except BaseException:
        path.unlink(missing_ok=True)
        raise


def _brought(ctx: Context, key: str, name: str, path: Path, size: int) -> ImportShown:
    """Store the upload; sent again under the same key, it is there already."""
    shape = shape_of(path)
    command = f"import-{key}"
    with ctx.write() as connection:
        if store.add_import(connection, command, name, str(path), size, shape.header, to_text(ctx.now)):
            store.set_mapping(connection, command, kept_map(guess(shape.header)))
        else:
            path.unlink()
    return _shown(ctx, store.one_import(ctx.connection, command))


@router.get("/{command}")
def get_import(command: Command, ctx: In) -> ImportShown:
    """An import with its progress."""
    return _shown(ctx, store.one_import(ctx.connection, command))


@router.post("/{command}/check")
def check(command: Command, body: MapBody, ctx: In) -> ImportShown:
    """Read the whole file by a mapping, without effect on the ledger; the mapping can be saved under a name."""
    item = store.one_import(ctx.connection, command)
    check_map(body.read(), item.header)
    with ctx.write() as connection:
        store.turn(connection, command, "checking", only_from=("new", "checked", "failed", "stopped"))
        store.set_mapping(connection, command, kept_map(body.read()))
        if body.keep_as.strip():
            store.save_mapping(connection, body.keep_as, kept_map(body.read()))
    return _go(ctx, item, keep=False)


@router.post("/{command}/save")
def save(command: Command, ctx: In) -> ImportShown:
    """Save the good rows of a checked file; they all count once the last is read."""
    item = store.one_import(ctx.connection, command)
    if item.state in ("keeping", "done"):
        return _shown(ctx, item)
    with ctx.write() as connection:
        store.turn(connection, command, "keeping", only_from=("checked",))
    return _go(ctx, item, keep=True)


def _go(ctx: Context, item: store.Import, keep: bool) -> ImportShown:
    if item.bytes <= SMALL:
        run(ctx.database, item.command, ctx.now, keep)
    else:
        words = [sys.executable, "-m", "salttide", "import-run", str(ctx.database.path), item.command]
        subprocess.Popen([*words, ctx.now.astimezone(UTC).isoformat(), "--keep" if keep else "--check"])
    return _shown(ctx, store.one_import(ctx.connection, item.command))


@router.post("/{command}/stop")
def stop(command: Command, ctx: In) -> ImportShown:
    """Stop reading; nothing of a stopped import counts."""
    with ctx.write() as connection:
        store.turn(connection, command, "stopped", only_from=("checking", "keeping", "new", "checked"), said="stopped")
    return _shown(ctx, store.one_import(ctx.connection, command))


@router.post("/{command}/undo")
def undo(command: Command, ctx: In) -> ImportShown:
    """Undo a finished import as a whole; its rows stay in the ledger and no longer count."""
    with ctx.write() as connection:
        store.turn(connection, command, "taken_back", only_from=("done",))
        store.settle(connection, command)
    return _shown(ctx, store.one_import(ctx.connection, command))


@router.post("/{command}/redo")
def redo(command: Command, ctx: In) -> ImportShown:
    """Let an import that was undone count again."""
    with ctx.write() as connection:
        store.turn(connection, command, "done", only_from=("taken_back",))
        store.settle(connection, command)
    return _shown(ctx, store.one_import(ctx.connection, command))


def _shown(ctx: Context, item: store.Import, sample: bool = True) -> ImportShown:
    own = _body(item.mapping)
    header = set(item.header)
    return ImportShown(
        id=item.command,
        name=item.name,
        state=item.state,
        share=item.share,
        good=item.good,
        twice=item.twice,
        bad=item.bad,
        bad_rows=[BadRow(line=line, reason=reason) for line, reason in item.bad_rows],
        first_rows=[_first(ctx, row) for row in item.first_rows],
        said=item.said or _said(item),
        header=list(item.header),
        sample=_sample(Path(item.path)) if sample and item.state in ("new", "checked") else [],
        mapping=own,
        probes=[f"{one.instrument}, {spoken(Parameter(one.parameter))}" for one in item.dense],
        fitting={
            name: _body(kept) for name, kept in store.mappings(ctx.connection).items() if set(kept["columns"]) <= header
        },
    )


def _body(mapping: dict[str, Any]) -> MapBody:
    return MapBody(**kept_map(read_map(mapping))) if mapping else MapBody(columns={})


def _said(item: store.Import) -> str:
    parts = [counted(item.good, "reading")]
    if item.twice:
        parts.append(phrase("importing.already_there", count=item.twice))
    if item.bad:
        parts.append(phrase("importing.left_out", count=item.bad))
    return ", ".join(parts) if item.state not in ("new",) else ""


def _first(ctx: Context, row: dict[str, Any]) -> FirstRow:
    parameter = Parameter(row["parameter"])
    local = to_moment(row["at"]).astimezone(ctx.keeper.zone)
    return FirstRow(
        when=f"{date_words(local.date())} {clock_words(local)}",
        system=str(row["system_id"]),
        what=f"{FACTS[parameter].name} {show(parameter, row['value'], ctx.keeper.units)}",
        instrument=row["instrument"],
    )


def _sample(path: Path) -> list[list[str]]:
    """The first rows of the file, as text."""
    if not path.exists():
        return []
    rows: list[list[str]] = []
    line: Line
    for line in lines_of(path, shape_of(path)):
        rows.append([cell[:60] for cell in line.cells])
        if len(rows) == 4:
            break
    return rows
