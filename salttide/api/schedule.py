"""The schedule of a system's pumps as a file, for a pump or a script to read."""

from fastapi import APIRouter, Response

from salttide.core.planning.container import ContainerKind
from salttide.files.schedule import PumpSchedule, schedule_csv, schedule_json

from .context import Context, In
from .models import Id

router = APIRouter(prefix="/api/systems/{system_id}/containers", tags=["container"])


@router.get("/schedule.json")
def as_json(system_id: Id, ctx: In) -> Response:
    """The schedule of all pumps of a system, for a pump or a script to read."""
    system = ctx.household.system(system_id)
    text = schedule_json(system.name, ctx.keeper.zone.key, _schedules(ctx, system_id))
    return _file(text, "application/json", f"dosing-{ctx.today}.json")


@router.get("/schedule.csv")
def as_csv(system_id: Id, ctx: In) -> Response:
    """The same as a table."""
    return _file(schedule_csv(_schedules(ctx, system_id)), "text/csv; charset=utf-8", f"dosing-{ctx.today}.csv")


def _schedules(ctx: Context, system_id: int) -> list[PumpSchedule]:
    made = []
    for one in ctx.stored.containers(system_id):
        setting, known = one.setting_at(ctx.now), one.of(ContainerKind.CALIBRATED)
        if one.pump and setting and setting.slots:
            holds = f"{one.additive.name} ({one.additive.formula})"
            made.append(PumpSchedule(one.name, one.pump, holds, known[-1].ml if known else None, setting.slots))
    return made


def _file(text: str, kind: str, name: str) -> Response:
    return Response(text, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
