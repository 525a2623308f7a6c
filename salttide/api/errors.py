"""One table from error to status, and problem answers (RFC 9457) with the paths of the fields."""

from __future__ import annotations

import logging
import sqlite3
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from salttide.core.basics import errors
from salttide.core.basics.errors import InputError
from salttide.core.basics.locale import writing
from salttide.core.basics.number_text import parse_number
from salttide.core.jot.reader import JotError
from salttide.core.science.units import in_keepers_units
from salttide.faults import fault_number
from salttide.store.database import DAMAGED_WORDS

STATUS: dict[type[errors.SaltTideError], int] = {
    errors.InputError: 422,
    errors.GateError: 409,
    errors.RuleError: 422,
    errors.NotFoundError: 404,
    errors.ConflictError: 409,
    errors.DamagedError: 503,
    errors.DataError: 500,
}
log = logging.getLogger("salttide")


class FieldProblem(BaseModel):
    """What is wrong at one field, and what would be accepted."""

    field: str
    message: str
    accepted: str = ""
    start: int | None = None
    end: int | None = None
    """The place in the text, where a word of it is meant."""


class Problem(BaseModel):
    """An answer that says what went wrong (application/problem+json)."""

    type: str
    title: str
    status: int
    detail: str
    fields: list[FieldProblem] = []
    missing: list[str] = []
    reference: str = ""


def status_of(error: errors.SaltTideError) -> int:
    """The status of the nearest class in the table."""
    return next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)


def install(app: FastAPI) -> None:
    """Answer every error of the app as a problem."""
    app.add_exception_handler(errors.SaltTideError, _own)
    app.add_exception_handler(RequestValidationError, _body)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(sqlite3.Error, _database)
    app.add_exception_handler(UnicodeError, _letters)
    app.add_exception_handler(Exception, _unforeseen)


def _answer(problem: Problem) -> JSONResponse:
    return JSONResponse(problem.model_dump(), problem.status, media_type="application/problem+json")


async def _own(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, errors.SaltTideError)
    error = in_keepers_units(error, request.app.state.keeper.units)
    status = status_of(error)
    if status == 500:
        return await _unforeseen(request, error)
    accepted = error.accepted if isinstance(error, errors.InputError) else ""
    place = {"start": error.start, "end": error.end} if isinstance(error, JotError) else {}
    field = FieldProblem(field=error.field, message=error.message, accepted=accepted, **place)
    fields = [field] if error.field else []
    missing = list(error.missing) if isinstance(error, errors.GateError) else []
    return _answer(
        Problem(
            type=f"/problems/{error.code}",
            title=_TITLES.get(status, "Not done"),
            status=status,
            detail=error.message,
            fields=fields,
            missing=missing,
        )
    )


_TITLES = {404: "Not found", 409: "Not now", 422: "Not accepted"}


_OF_DATABASE = (
    ("locked", 503, "Somebody else is writing just now. Nothing was recorded: try again in a moment."),
    ("full", 507, "The disk is full. Nothing was recorded: make room, then try again."),
    ("readonly", 503, "The database cannot be written to: look whether its file and its folder may be changed."),
    ("FOREIGN KEY", 422, "This refers to something that is not there, or not any more."),
    ("CHECK", 422, "A value lies outside what can be kept."),
    ("UNIQUE", 409, "There is one of this name or number already."),
    ("malformed", 503, DAMAGED_WORDS),
)
"""What the database says, the status, and what to do."""


async def _database(request: Request, error: Exception) -> JSONResponse:
    """What the database refuses is said in words; what it should never say is a fault."""
    for said, status, words in _OF_DATABASE:
        if said in str(error):
            log.warning("%s %s: %s", request.method, request.url.path, error)
            title = "Not accepted" if status == 422 else "Not now"
            return _answer(Problem(type="/problems/database", title=title, status=status, detail=words))
    return await _unforeseen(request, error)


async def _letters(request: Request, error: Exception) -> JSONResponse:
    detail = "there are signs in it that are no letters: they cannot be kept"
    return _answer(Problem(type="/problems/body", title="Not accepted", status=422, detail=detail))


async def _body(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    fields = [_field(item) for item in error.errors()]
    detail = fields[0].message if fields else "the request could not be read"
    return _answer(Problem(type="/problems/body", title="Not accepted", status=422, detail=detail, fields=fields))


def _field(item: dict[str, Any]) -> FieldProblem:
    path = [str(part) for part in item["loc"] if part not in ("body", "query", "path", "header")]
    if item["type"] == "json_invalid":
        return FieldProblem(field="", message="the body is not JSON", accepted="a JSON object")
    message = str(item["msg"]).removeprefix("Value error, ")
    if item["type"].startswith(("float_", "int_", "finite_")):
        message = _number_words(item.get("input"))
    elif item["type"].startswith("date_"):
        message = "a date is wanted, such as 2026-11-24"
    elif item["type"] in ("missing", "string_too_short"):
        message = "something is wanted here"
    elif item["type"] == "string_too_long":
        message = f"at most {item['ctx']['max_length']} characters"
    return FieldProblem(field=".".join(path), message=message[:1].lower() + message[1:])


def _number_words(typed: Any) -> str:
    """What is wrong with something typed where a number belongs."""
    if typed in (None, ""):
        return "a number is wanted here"
    if isinstance(typed, str):
        try:
            parse_number(typed, writing().sign)
        except InputError as error:
            return error.message
    return f"“{typed}” is not a number of the kind that is wanted here"


async def _http(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    detail = "there is nothing here" if error.status_code == 404 else str(error.detail)
    title = _TITLES.get(error.status_code, "Not done")
    return _answer(Problem(type="/problems/http", title=title, status=error.status_code, detail=detail))


async def _unforeseen(request: Request, error: Exception) -> JSONResponse:
    reference = fault_number(error, f"{request.method} {request.url.path}")
    detail = f"Something went wrong inside Salt Tide; nothing was recorded. Reference {reference}."
    return _answer(Problem(type="/problems/fault", title="Fault", status=500, detail=detail, reference=reference))
