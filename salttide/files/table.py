"""Reading a table from any file: its encoding, its separator, its lines, each of bounded length."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import chain
from pathlib import Path
from typing import IO, Any, NamedTuple

from salttide.core.basics.errors import InputError

LONGEST_LINE = 20_000
"""The most characters of one line; a longer one is reported and skipped."""
MAX_COLUMNS = 200
LARGEST_JSON = 20_000_000
SEPARATORS = (",", ";", "\t", "|")
BLOCK = 1_000_000
_SAMPLE = 64_000


@dataclass(frozen=True)
class TableShape:
    """How to read a file: encoding, separator (empty for JSON), and the names of its columns."""

    encoding: str
    separator: str
    header: tuple[str, ...]


class Line(NamedTuple):
    """One row of a table with its line number, or what is wrong with that line."""

    number: int
    cells: list[str]
    wrong: str = ""


def shape_of(path: Path) -> TableShape:
    """The shape of a table by the beginning of its file. Raises InputError where it is not a table, with what would
    be."""
    head = path.read_bytes()[:_SAMPLE] if path.stat().st_size <= _SAMPLE else _first(path)
    if not head.strip(b"\xef\xbb\xbf \r\n\t\0"):
        raise InputError("the file is empty", field="file", accepted="a table as CSV, or a list as JSON")
    encoding = _encoding(head)
    text = head.decode(encoding, "replace").lstrip("\ufeff")
    if text.lstrip()[:1] in ("[", "{"):
        rows = _json_rows(path, encoding)
        return TableShape(encoding, "", tuple(rows[0]))
    if "\0" in text:
        raise InputError("this is not a table: it holds bytes that no text has", field="file", accepted="CSV or JSON")
    first = next((line for line in text.splitlines() if line.strip()), "")
    if len(first) > LONGEST_LINE:
        raise InputError("the first line is far too long for a header", field="file", accepted="a header, then rows")
    separator = max(SEPARATORS, key=first.count)
    header = tuple(name.strip() for name in next(csv.reader([first], delimiter=separator)))
    if first.count(separator) == 0 or len(header) > MAX_COLUMNS:
        raise InputError(
            "no columns are found in the first line",
            field="file",
            accepted="names of columns, separated by comma, semicolon or tab",
        )
    return TableShape(encoding, separator, header)


def _first(path: Path) -> bytes:
    with path.open("rb") as file:
        return file.read(_SAMPLE)


def _encoding(head: bytes) -> str:
    """UTF-8 with or without a byte order mark, UTF-16 by its mark, else the western code page, which accepts nearly any
    byte."""
    if head[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return "utf-16"
    try:
        head[: len(head) - 4 if len(head) >= _SAMPLE else len(head)].decode("utf-8")
    except UnicodeDecodeError as error:
        return "utf-8-sig" if error.start > len(head) - 8 else "cp1252"
    return "utf-8-sig"


def lines_of(path: Path, shape: TableShape, report: Callable[[int], object] = int) -> Iterator[Line]:
    """Every row after the header, with its line; memory is bounded whatever the file holds.

    `report` is called with the bytes read so far.
    """
    if not shape.separator:
        rows = _json_rows(path, shape.encoding)
        for number, row in enumerate(rows, 1):
            yield Line(number, [_plain(row.get(name)) for name in shape.header])
        return
    with path.open("r", encoding=shape.encoding, errors="replace", newline="") as file:
        source = _Bounded(file, report)
        begun = False
        for number, cells, wrong in source.rows(shape.separator, len(shape.header)):
            if wrong:
                yield Line(number, cells, wrong)
            elif not begun:
                begun = any(cells)
            elif len(cells) == len(shape.header):
                yield Line(number, cells)
            elif any(cells):
                yield Line(number, cells, f"{len(cells)} cells, but {len(shape.header)} columns in the first line")


class _Bounded:
    """Lines of a file in blocks; those longer than LONGEST_LINE are counted and left out."""

    def __init__(self, file: IO[str], report: Callable[[int], object]) -> None:
        self.file, self.report = file, report
        self.number = 0
        self.wrong: list[Line] = []

    def rows(self, separator: str, width: int) -> Iterator[Line]:
        """Rows with the line they begin on. Without a quote every line is a row; with one a row may take several."""
        csv.field_size_limit(LONGEST_LINE + 1)
        blocks = self._blocks()
        for lines in blocks:
            first = self.number - len(lines) + 1
            yield from self._bad_lines()
            if not any('"' in line for line in lines):
                for number, cells in enumerate(csv.reader(lines, delimiter=separator), first):
                    yield Line(number, cells)
                continue
            yield from self._quoted(chain(lines, chain.from_iterable(blocks)), first, separator, width)
        yield from self._bad_lines()

    def _quoted(self, lines: Iterator[str], first: int, separator: str, width: int) -> Iterator[Line]:
        """Rows from here on, some of them quoted. A quote left open spoils only its own line: what it would swallow is
        read line by line."""
        number = first
        while True:
            taken: list[str] = []
            reader = csv.reader(_noted(lines, taken), delimiter=separator)
            wrong = ""
            try:
                cells = next(reader)
            except StopIteration:
                return
            except csv.Error as error:
                cells, wrong = [], f"cannot be read as a row: {error}"
            yield from self._bad_lines()
            if len(taken) > 1 and (wrong or _stray(taken, cells, separator, width)):
                lines = chain(taken[1:], lines)
                taken = taken[:1]
                cells, wrong = [], "a quote is opened on this line and not closed"
            yield Line(number, cells, wrong)
            number += len(taken)

    def _bad_lines(self) -> list[Line]:
        wrong, self.wrong = self.wrong, []
        return wrong

    def _blocks(self) -> Iterator[list[str]]:
        """Lines with their ends, a block of the file at a time. An over-long line leaves an empty one in its place."""
        rest, skipping = "", False
        while block := self.file.read(BLOCK):
            self.report(self.file.buffer.tell())  # type: ignore[attr-defined]
            lines = (rest + block).replace("\0", "").splitlines(keepends=True)
            rest = lines.pop() if lines and not lines[-1].endswith("\n") else ""
            lines = self._checked(lines)
            if skipping and lines:
                lines[0], skipping = "\n", False
            if len(rest) > LONGEST_LINE:
                if not skipping:
                    self._too_long(self.number + 1)
                rest, skipping = "", True
            yield lines
        if rest and not skipping:
            yield self._checked([rest])

    def _checked(self, lines: list[str]) -> list[str]:
        first = self.number + 1
        self.number += len(lines)
        if lines and max(map(len, lines)) > LONGEST_LINE:
            for at, line in enumerate(lines):
                if len(line) > LONGEST_LINE:
                    self._too_long(first + at)
                    lines[at] = "\n"
        return lines

    def _too_long(self, number: int) -> None:
        self.wrong.append(Line(number, [], f"the line is longer than {LONGEST_LINE} characters"))


def _noted(lines: Iterator[str], taken: list[str]) -> Iterator[str]:
    """The lines, remembering those that were consumed."""
    for line in lines:
        taken.append(line)
        yield line


def _stray(taken: list[str], cells: list[str], separator: str, width: int) -> bool:
    """Whether a stray quote made one row of several lines: the row lacks the table's columns, its quotes are odd, or a
    line in its middle is a row by itself."""
    if len(cells) != width or sum(line.count('"') for line in taken) % 2:
        return True
    return any(line.count(separator) >= width - 1 for line in taken[1:-1])


def _json_rows(path: Path, encoding: str) -> list[dict[str, Any]]:
    """Rows from a list of flat objects, by itself or as the only list within an object."""
    if path.stat().st_size > LARGEST_JSON:
        raise InputError("a JSON file of this size is not read", field="file", accepted="up to 20 MB, or CSV")
    try:
        found = json.loads(path.read_text(encoding))
    except (ValueError, RecursionError) as error:
        raise InputError(f"this is not JSON: {error}", field="file", accepted="a list of results") from error
    if isinstance(found, dict):
        lists = [value for value in found.values() if isinstance(value, list)]
        found = lists[0] if len(lists) == 1 else found
    if not isinstance(found, list) or not found or not all(isinstance(row, dict) for row in found):
        raise InputError("expected a list of results", field="file", accepted='[{"parameter": "calcium", …}, …]')
    names = list(dict.fromkeys(str(name) for row in found for name in row))[:MAX_COLUMNS]
    return [dict.fromkeys(names) | {str(name): value for name, value in row.items()} for row in found]


def _plain(value: Any) -> str:
    if value is None or isinstance(value, dict | list):
        return ""
    return str(value)


def write_csv(header: tuple[str, ...], rows: Iterator[tuple[Any, ...]]) -> Iterator[str]:
    """A table as CSV text, in pieces; cells a spreadsheet would run as a formula are made plain text."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(header)
    for number, row in enumerate(rows, 1):
        writer.writerow([_safe(cell) for cell in row])
        if number % 500 == 0:
            yield buffer.getvalue()
            buffer.seek(0)
            buffer.truncate()
    yield buffer.getvalue()


def _safe(cell: Any) -> Any:
    """Text that begins like a formula gets an apostrophe in front, which every spreadsheet reads as text."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in _FORMULA else cell


_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def unguarded(cell: str) -> str:
    """A cell as it was before `write_csv` made it plain text."""
    return cell[1:] if cell[:1] == "'" and cell[1:2] in _FORMULA else cell
