"""The guided start: everything a keeper knows on the first day, in one command."""

from collections.abc import Mapping
from datetime import date
from typing import Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import later
from salttide.core.basics.errors import check_range
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.estimate.forecast import foreseen
from salttide.core.ledger.bench import Row, accept, examine
from salttide.core.ledger.entries import Ledger, Reading
from salttide.core.science.mix import SaltMix
from salttide.core.system.starter import unmeasured_salt
from salttide.core.system.system import System
from salttide.household.start import Start, begin

from .bench import RowBody
from .context import Context, In, Key
from .models import Model, RequestModel
from .system import SystemBody, read_system

router = APIRouter(prefix="/api/start", tags=["start"])

LAST_DAYS = 365
Task = Literal["water_change", "scrape_front", "skimmer_cup"]


class FirstDayBody(RequestModel):
    """A system, its salt (empty: none yet; strength in g per litre of finished water at 35 ppt, null: not known),
    whether the common additives go on the Shelf, today's results, and when work was last done."""

    system: SystemBody
    salt: str = Field(default="", max_length=60)
    salt_g_l: float | None = None
    additives: bool = False
    results: list[RowBody] = Field(default_factory=list, max_length=40)
    last: dict[Task, date] = Field(default_factory=dict)


class Started(Model):
    """The new system."""

    id: int
    name: str


@router.post("", status_code=201)
def start(body: FirstDayBody, ctx: In, key: Key) -> Started:
    """Set up a system with everything that is known on the first day, all or nothing."""
    system = read_system(ctx, body.system, 0)
    wanted = Start(system, _salt(ctx, body), body.additives, _readings(ctx, system, body), _last(ctx, body.last))
    return Started(id=ctx.command(key, lambda c: begin(ctx.household, c, wanted, key)), name=system.name)


def _salt(ctx: Context, body: FirstDayBody) -> SaltMix | None:
    """The salt to put on the shelf: none where it is there already and nothing else is said of it."""
    name = body.salt.strip()
    if not name or (body.salt_g_l is None and name in {salt.name for salt in ctx.stored.salts}):
        return None
    if body.salt_g_l is not None:
        check_range(phrase("start.strength"), body.salt_g_l, "g/L", 30, 60, field="salt_g_l")
    return unmeasured_salt(name, body.salt_g_l)


def _readings(ctx: Context, system: System, body: FirstDayBody) -> list[Reading]:
    rows = [Row(row.parameter, row.text, row.unit, confirmed=row.confirmed) for row in body.results if row.text.strip()]
    if not rows:
        return []
    keeper, empty = ctx.keeper, Ledger(system.volume_l)
    return accept(examine(rows, system, empty, (), foreseen, ctx.now, keeper.units, keeper.zone, keeper.habits.sign))


def _last(ctx: Context, last: Mapping[Task, date]) -> dict[str, date]:
    for task, day in last.items():
        if not later(ctx.today, -LAST_DAYS) <= day <= ctx.today:
            raise refused("start.within_the_last_year", f"last.{task}", "start.a_day_of_the_last_year")
    return {str(task): day for task, day in last.items()}
