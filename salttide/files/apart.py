"""What others made is read in a process of its own, with bounds on time and memory: a file spoils nothing but itself.

`python -m salttide.files.apart KIND` reads a line of options as JSON and then the file from its input, and writes a
line of JSON and then what it made.
"""

from __future__ import annotations

import json
import subprocess
import sys
import threading
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import asdict
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from salttide.core.basics.errors import InputError

SECONDS, MEMORY_BYTES = 20, 1_200_000_000
_ONE = threading.Lock()
"""One file at a time: several at once would take several times the memory."""


def absences_apart(text: str, zone: ZoneInfo, today: date) -> list[Any]:
    """`absences_in` of a calendar, read apart. Raises InputError at `text`, also where it takes too long."""
    from .calendar import AbsenceFound

    answer, _ = _apart("calendar", {"zone": zone.key, "today": today.isoformat()}, text.encode("utf-8"), "text")
    return [
        AbsenceFound(**{**one, "first": date.fromisoformat(one["first"]), "last": date.fromisoformat(one["last"])})
        for one in answer["found"]
    ]


def picture_apart(data: bytes) -> Any:
    """`read_picture` of bytes, read apart. Raises InputError at `file`, also where it takes too long."""
    from .picture import ACCEPTED, LARGEST_BYTES, Picture

    if len(data) > LARGEST_BYTES:
        raise InputError("this picture is too large", field="file", accepted=ACCEPTED)
    answer, made = _apart("picture", {}, data, "file")
    return Picture(made[: answer["jpeg"]], made[answer["jpeg"] :], answer["width"], answer["height"])


def _apart(kind: str, options: Mapping[str, str], data: bytes, field: str) -> tuple[dict[str, Any], bytes]:
    """The JSON and the bytes that the other process answers with."""
    asked = json.dumps(options).encode() + b"\n" + data
    command = [sys.executable, "-m", "salttide.files.apart", kind]
    with _ONE:
        try:
            done = subprocess.run(command, input=asked, capture_output=True, timeout=SECONDS, check=False)
        except subprocess.TimeoutExpired as error:
            raise _too_much(field) from error
    head, _, made = done.stdout.partition(b"\n")
    if done.returncode or not head:
        raise _too_much(field)
    answer: dict[str, Any] = json.loads(head)
    if "refused" in answer:
        raise InputError(answer["refused"], field=field, accepted=answer["accepted"])
    return answer, made


def _too_much(field: str) -> InputError:
    return InputError(
        "this file asks for more time or memory than reading it is worth", field=field, accepted="a simpler one"
    )


def _calendar(options: Mapping[str, str], data: bytes) -> tuple[dict[str, Any], bytes]:
    from .calendar import absences_in

    found = absences_in(data.decode("utf-8"), ZoneInfo(options["zone"]), date.fromisoformat(options["today"]))
    shown = [asdict(one) | {"first": one.first.isoformat(), "last": one.last.isoformat()} for one in found]
    return {"found": shown}, b""


def _picture(options: Mapping[str, str], data: bytes) -> tuple[dict[str, Any], bytes]:
    from .picture import read_picture

    made = read_picture(data)
    answer = {"jpeg": len(made.jpeg), "width": made.width, "height": made.height}
    return answer, made.jpeg + made.thumb


_KINDS: Mapping[str, Callable[[Mapping[str, str], bytes], tuple[dict[str, Any], bytes]]] = {
    "calendar": _calendar,
    "picture": _picture,
}


def _bounded() -> None:
    """Bounds of this process, where the machine knows such bounds."""
    with suppress(ImportError, ValueError, OSError):
        import resource

        resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
        resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS + 1))


def main() -> None:
    """Read one file as estimated by the command line."""
    _bounded()
    options, _, data = sys.stdin.buffer.read().partition(b"\n")
    try:
        answer, made = _KINDS[sys.argv[1]](json.loads(options), data)
    except InputError as error:
        answer, made = {"refused": error.message, "accepted": error.accepted}, b""
    except MemoryError:
        sys.exit(1)
    sys.stdout.buffer.write(json.dumps(answer).encode() + b"\n" + made)


if __name__ == "__main__":
    main()
