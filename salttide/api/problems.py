"""Problem answers (RFC 9457) as the API describes them, and a page that says what each kind means."""

from html import escape
from typing import Any

from fastapi import APIRouter, FastAPI
from fastapi.responses import HTMLResponse
from fastapi.routing import APIRoute

from salttide.core.basics.errors import NotFoundError

from .errors import Problem

router = APIRouter(prefix="/problems", include_in_schema=False)
KINDS = {
    "input": ("Not accepted", "A field holds what cannot be taken. What would be taken is said at the field."),
    "number": ("Not a number", "A field wants a number, written as this keeper writes numbers."),
    "unit": ("Unit not known here", "The unit does not belong to what is asked for. Those that do are listed."),
    "scale": ("Another scale", "The value is on one scale where another is meant, such as pH on another scale."),
    "ambiguous": ("Asked back", "It can be read in more than one way. Say which is meant; nothing is guessed."),
    "domain": ("Out of range", "The number is outside what physics or the program allows. The range is given."),
    "jot": ("Not understood", "A word cannot be read. Its place in the line, and what may stand there, are given."),
    "rule": ("Against a rule", "It can be read and done, but would break a rule that keeps animals or people safe."),
    "plan": ("No plan", "From what is known, no plan can be made. What is missing is said."),
    "gate": ("Not yet", "A step at the tank may not be passed before what is listed is done."),
    "not-found": ("Not found", "What is named does not exist, or not any more."),
    "conflict": ("Not now", "It exists already, or was changed in the meantime."),
    "damaged": ("Database damaged", "It is opened for reading only: take out what can be read, or restore a copy."),
    "database": ("Database", "It refused: it is busy, full, read-only, or has a rule against the value."),
    "body": ("Not accepted", "The request is not of the form that is taken here. The fields at fault are listed."),
    "http": ("Not done", "The address or the method is not one of this program's."),
    "host": ("Not this server", "The request names a server that this one is not set up to be."),
    "fault": ("Fault", "Something went wrong inside the program. The reference number finds it in the log."),
}  # fmt: skip
"""Title and meaning by kind: the last part of a problem's `type`."""
STATUSES = ("400", "404", "409", "413", "415", "422", "500", "503")


@router.get("/{kind}")
def page(kind: str) -> HTMLResponse:
    """What a kind of problem means. Raises NotFoundError."""
    if kind not in KINDS:
        raise NotFoundError("there is no such kind of problem")
    title, meaning = map(escape, KINDS[kind])
    return HTMLResponse(f'<!doctype html><html lang="en"><title>{title}</title><h1>{title}</h1><p>{meaning}</p></html>')


def operation_id(route: APIRoute) -> str:
    """What an operation is called by clients: its part of the API and its function."""
    return f"{route.tags[0] if route.tags else 'app'}_{route.name}".replace("-", "_")


def describe(app: FastAPI) -> None:
    """Let the description of the API say of every operation that it may answer with a problem."""
    plain = app.openapi

    def described() -> dict[str, Any]:
        if app.openapi_schema:
            return app.openapi_schema
        found = plain()
        schema = Problem.model_json_schema(mode="serialization", ref_template="#/components/schemas/{model}")
        parts = found["components"]["schemas"]
        parts |= {**schema.pop("$defs"), "Problem": schema}
        for name in ("HTTPValidationError", "ValidationError"):
            parts.pop(name, None)
        content = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for ways in found["paths"].values():
            for operation in ways.values():
                answers = operation["responses"]
                for status in (*STATUSES, "default"):
                    answers[status] = {"description": "A problem, in words", "content": content}
        return found

    app.openapi = described  # type: ignore[method-assign]
