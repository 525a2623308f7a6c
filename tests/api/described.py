"""A client that holds every answer against the API's own description."""

from __future__ import annotations

import re
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import jsonschema_rs
from fastapi.testclient import TestClient

from salttide.app import make_app

JSON_TYPES = ("application/json", "application/problem+json")


@cache
def description() -> dict[str, Any]:
    """The description of the API."""
    with TemporaryDirectory() as folder:
        app = make_app(Path(folder) / "empty.db", build=None)
        found: dict[str, Any] = app.openapi()
        app.state.database.close()
    return found


@cache
def _patterns() -> list[tuple[re.Pattern[str], str]]:
    """Of each path a pattern that finds it; those without a parameter first."""
    paths = sorted(description()["paths"], key=lambda path: path.count("{"))
    return [(re.compile(re.sub(r"\\\{\w+\\\}", "[^/]+", re.escape(path)) + "$"), path) for path in paths]


@cache
def _validator(path: str, method: str, status: str, kind: str) -> Any:
    answers = description()["paths"][path][method]["responses"]
    answer = answers.get(status) or answers["default"]
    schema = answer.get("content", {}).get(kind, {}).get("schema")
    assert schema is not None, f"{method} {path} does not say that it answers {status} with {kind}"
    return jsonschema_rs.validator_for({**schema, "components": description()["components"]})


class DescribedClient(TestClient):
    """Fails where an answer is not what the description says."""

    def request(self, method: str, url: Any, **more: Any) -> Any:  # type: ignore[override]
        answer = super().request(method, url, **more)
        kind = answer.headers.get("content-type", "").partition(";")[0]
        path = next((path for pattern, path in _patterns() if pattern.match(answer.request.url.path)), None)
        way = method.lower()
        if kind in JSON_TYPES and path and way in description()["paths"][path]:
            wrong = next(iter(_validator(path, way, str(answer.status_code), kind).iter_errors(answer.json())), None)
            assert wrong is None, f"{method} {path}: {wrong.message} at {wrong.instance_path}"
        return answer
