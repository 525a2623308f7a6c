"""Problem answers (RFC 9457) as the API describes them, and a page on what each kind means."""

from html import escape
from typing import Any

from fastapi import APIRouter, FastAPI
from fastapi.responses import HTMLResponse
from fastapi.routing import APIRoute

from salttide.core.basics.errors import NotFoundError
from salttide.core.basics.phrases import phrase, phrases

from .errors import Problem

router = APIRouter(prefix="/problems", include_in_schema=False)
STATUSES = ("400", "404", "409", "413", "415", "422", "500", "503")


@router.get("/{kind}")
def page(kind: str) -> HTMLResponse:
    """What a kind of problem means. Raises NotFoundError."""
    if kind not in phrases("problems.title"):
        raise NotFoundError(phrase("problems.no_such_kind"))
    title, meaning = (escape(phrase(f"problems.{part}.{kind}")) for part in ("title", "meaning"))
    return HTMLResponse(f'<!doctype html><html lang="en"><title>{title}</title><h1>{title}</h1><p>{meaning}</p></html>')


def operation_id(route: APIRoute) -> str:
    """The operation id for clients: the part of the API and its function."""
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
                    answers[status] = {"description": phrase("problems.in_words"), "content": content}
        return found

    app.openapi = described  # type: ignore[method-assign]
