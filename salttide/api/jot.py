"""The jot line: a sum in the keeper's plain words, answered as it is typed."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core import catalogue
from salttide.core.jot import EXAMPLES, answer
from salttide.store.jot import jot_context

from .context import In
from .models import Caution, Id, Strict, WorkingStep, working_shown

router = APIRouter(prefix="/api/jot", tags=["jot"])


class JotBody(Strict):
    """A line as typed, and the system that is looked at."""

    text: str = Field(max_length=200)
    system_id: Id | None = None


class JotAnswer(BaseModel):
    """The answer: number, how it was understood, what else to know, and the working."""

    understood: str
    value: float
    unit: str
    text: str
    notes: list[str]
    cautions: list[Caution]
    working: list[WorkingStep]


@router.get("")
def examples() -> list[str]:
    """One sum of each kind."""
    return list(EXAMPLES)


@router.post("")
def jot(body: JotBody, ctx: In) -> JotAnswer:
    """Answer a sum; records nothing. A line that is not understood is a problem with the place of the word."""
    found = answer(body.text, jot_context(ctx.connection, ctx.ledgers, ctx.now, body.system_id))
    words = catalogue.cautions()
    return JotAnswer(
        understood=found.understood,
        value=found.value,
        unit=found.unit,
        text=found.text,
        notes=list(found.notes),
        cautions=[Caution(key=key, title=words[key].title, text=words[key].text) for key in found.cautions],
        working=working_shown(found.working),
    )
