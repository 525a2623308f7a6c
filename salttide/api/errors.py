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
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.jot.reader import JotError
from salttide.core.science.units import in_keepers_units
from salttide.faults import fault_number
from salttide.store.database import DAMAGED_WORDS

from .typed import number_typed

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
    """The place in the text of the word at fault."""


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
            title=_title(status),
            status=status,
            detail=error.message,
            fields=fields,
            missing=missing,
        )
    )


def _title(status: int) -> str:
    titles = phrases("errors.title")
    return titles.get(str(status), titles["other"])


_OF_DATABASE = {"locked": 503, "full": 507, "readonly": 503, "FOREIGN KEY": 422, "CHECK": 422, "UNIQUE": 409}
"""Errors of the database, and the status each gets."""


async def _database(request: Request, error: Exception) -> JSONResponse:
    """Expected database errors as a problem in words; any other is a fault."""
    said = next((said for said in (*_OF_DATABASE, "malformed") if said in str(error)), None)
    if said is None:
        return await _unforeseen(request, error)
    log.warning("%s %s: %s", request.method, request.url.path, error)
    status = _OF_DATABASE.get(said, 503)
    words = DAMAGED_WORDS if said == "malformed" else phrase(f"errors.database.{said}")
    title = _title(422 if status == 422 else 409)
    return _answer(Problem(type="/problems/database", title=title, status=status, detail=words))


async def _letters(request: Request, error: Exception) -> JSONResponse:
    detail = phrase("errors.it_contains_characters_that_cannot")
    return _answer(Problem(type="/problems/body", title=phrase("errors.not_accepted"), status=422, detail=detail))


async def _body(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    fields = [_field(item) for item in error.errors()]
    detail = fields[0].message if fields else phrase("errors.the_request_could_not_be_read")
    return _answer(
        Problem(type="/problems/body", title=phrase("errors.not_accepted"), status=422, detail=detail, fields=fields)
    )


def _field(item: dict[str, Any]) -> FieldProblem:
    path = [str(part) for part in item["loc"] if part not in ("body", "query", "path", "header")]
    if item["type"] == "json_invalid":
        return FieldProblem(
            field="", message=phrase("errors.the_body_is_not_json"), accepted=phrase("errors.a_json_object")
        )
    message = str(item["msg"]).removeprefix(phrase("errors.value_error"))
    if item["type"].startswith(("float_", "int_", "finite_")):
        message = _number_words(item.get("input"), path[-1] if path else "")
    elif item["type"].startswith("date_"):
        message = phrase("errors.enter_a_date_such_as")
    elif item["type"] in ("missing", "string_too_short"):
        message = phrase("errors.required")
    elif item["type"] == "string_too_long":
        message = phrase("errors.at_most_characters", count=item["ctx"]["max_length"])
    return FieldProblem(field=".".join(path), message=message[:1].lower() + message[1:])


def _number_words(typed: Any, field: str) -> str:
    """What is wrong with something typed where a number belongs."""
    if typed in (None, ""):
        return phrase("common.enter_a_number")
    if isinstance(typed, str):
        try:
            number_typed(typed, field)
        except InputError as error:
            return error.message
    return phrase("errors.is_not_a_number_that_fits", typed=typed)


async def _http(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    detail = phrase("errors.there_is_nothing_at_this_address") if error.status_code == 404 else str(error.detail)
    title = _title(error.status_code)
    return _answer(Problem(type="/problems/http", title=title, status=error.status_code, detail=detail))


async def _unforeseen(request: Request, error: Exception) -> JSONResponse:
    reference = fault_number(error, f"{request.method} {request.url.path}")
    detail = phrase("errors.something_went_wrong_inside_salt", reference=reference)
    return _answer(Problem(type="/problems/fault", title="Fault", status=500, detail=detail, reference=reference))
