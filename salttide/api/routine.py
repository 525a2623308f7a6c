"""Two routines of water changes side by side: what each does to every parameter, and what it takes."""

from fastapi import APIRouter

from salttide.core.basics.errors import PlanError, check_range
from salttide.core.basics.measures import kilograms_words, litres_words
from salttide.core.basics.number_text import fraction
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import listed
from salttide.core.ledger.entries import Change
from salttide.core.ledger.stock import month_of_changes
from salttide.core.planning.done_change import usual_salt
from salttide.core.planning.work_order import routine_change
from salttide.core.science.dilution import Routine, RoutineOutcome, compare_routines
from salttide.core.science.mix import SaltMix
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import unit_of

from .context import Context, In
from .models import BandShown, Id, Model, RequestModel, band_shown, name_of, shown

router = APIRouter(prefix="/api/systems/{system_id}/change", tags=["change"])
DAYS = 90


class RoutineBody(RequestModel):
    """A change of a share of the water, and the days between."""

    percent: float
    every_days: int


class RoutinesBody(RequestModel):
    """Two routines, with the salt that both are mixed from."""

    first: RoutineBody
    second: RoutineBody
    salt_id: Id | None = None


class RoutineShown(Model):
    """A parameter under one routine: its daily level in the keeper's unit, the worst, and where it settles."""

    levels: list[float]
    worst: str
    settled: str
    leaves: bool


class RoutineRow(Model):
    """A parameter under both routines. remark: what the comparison rests on."""

    parameter: str
    name: str
    unit: str
    band: BandShown | None
    first: RoutineShown
    second: RoutineShown
    remark: str


class RoutinesAnswer(Model):
    """Both routines over the same time."""

    days: int
    takes: list[str]
    rows: list[RoutineRow]
    note: str


@router.post("/routines")
def routines(system_id: Id, body: RoutinesBody, ctx: In) -> RoutinesAnswer:
    """Compare two routines, without effect."""
    system = ctx.household.system(system_id)
    pair = [_read(one, name) for one, name in ((body.first, "first"), (body.second, "second"))]
    salts = ctx.stored.salts
    salt = usual_salt(salts, body.salt_id or ctx.keeper.salt_id)
    if salt is None:
        raise PlanError(phrase("routine.put_a_salt_on_the_shelf"), field="salt_id")
    changes = [routine_change(system, salt, ctx.now, one.fraction) for one in pair]
    view = ctx.household.waters(system)
    net = view.net(view.present)
    incoming = changes[0].incoming
    rows = []
    for p, known in view.present.items():
        if p in incoming:
            outcomes = compare_routines(pair, known.value, incoming[p], net.get(p, 0.0), DAYS)
            rows.append(_row(ctx, system.bands.get(p), p, outcomes, p in net))
    still = [row.name.lower() for row in rows if row.remark]
    return RoutinesAnswer(
        days=DAYS,
        takes=[
            _takes(salt, change, asked.every_days)
            for change, asked in zip(changes, (body.first, body.second), strict=True)
        ],
        rows=rows,
        note=phrase("routine.steady_as_far_as_the_readings", parameters=listed(still)) if still else "",
    )


def _takes(salt: SaltMix, change: Change, every_days: int) -> str:
    """Water and salt of a routine in a month of thirty days."""
    litres, mass_g = month_of_changes(salt, change, every_days)
    return phrase("routine.l_and_a_month", litres=litres_words(litres, 0), mass=kilograms_words(mass_g), salt=salt.name)


def _read(one: RoutineBody, name: str) -> Routine:
    check_range("size", one.percent, "%", 1, 95, field=f"{name}.percent")
    check_range(phrase("routine.days_between"), one.every_days, "days", 1, 90, field=f"{name}.every_days")
    return Routine(fraction(one.percent), one.every_days)


def _row(
    ctx: Context, band: Span | None, parameter: Parameter, pair: tuple[RoutineOutcome, ...], moves: bool
) -> RoutineRow:
    first, second = (_shown(ctx, parameter, one, band) for one in pair)
    return RoutineRow(
        parameter=parameter,
        name=name_of(parameter),
        unit=unit_of(parameter, ctx.keeper.units).label,
        band=band_shown(parameter, band, ctx.keeper.units),
        first=first,
        second=second,
        remark="" if moves else phrase("routine.by_changes_alone"),
    )


def _shown(ctx: Context, parameter: Parameter, one: RoutineOutcome, band: Span | None) -> RoutineShown:
    unit = unit_of(parameter, ctx.keeper.units)
    return RoutineShown(
        levels=[round(unit.from_canonical(level), unit.decimals + 2) for level in one.levels],
        worst=shown(parameter, one.worst, ctx.keeper.units).text,
        settled=shown(parameter, one.settled, ctx.keeper.units).text,
        leaves=band is not None and any(not band.holds(level) for level in one.levels),
    )
