"""What is not in the record: an answer to what came between two tests."""

from fastapi import APIRouter
from pydantic import AwareDatetime

from salttide.core.estimate.unexplained import Answer
from salttide.core.science.parameters import Parameter
from salttide.household.unexplained import settle

from .context import In, Key
from .models import Id, Recorded, RequestModel

router = APIRouter(prefix="/api/systems/{system_id}/unexplained", tags=["judgement"])


class SettleBody(RequestModel):
    """An answer to what moved a parameter between the moments of two readings."""

    parameter: Parameter
    since: AwareDatetime
    until: AwareDatetime
    answer: Answer


@router.post("", status_code=201)
def settle_question(system_id: Id, body: SettleBody, ctx: In, key: Key) -> Recorded:
    """Record a dose, something of unknown cause, or that nothing happened; it is not asked about again."""
    system = ctx.household.system(system_id)
    about = (body.parameter, body.since, body.until)
    return ctx.record(key, lambda c: settle(ctx.household, c, system, about, body.answer, key))
