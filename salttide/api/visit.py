"""Visit: the carer's own page at a secret address: the sheet, the report of a visit, and its pictures."""

from typing import Annotated

from fastapi import APIRouter, Path, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from salttide.core.basics.errors import NotFoundError, at_field
from salttide.core.basics.phrases import phrase
from salttide.core.basics.refused import refused
from salttide.core.ledger.bench_row import Instrument, read_entry
from salttide.core.ledger.entries import UNNAMED
from salttide.core.overview.handover import WATCHED, VisitWork
from salttide.core.science.parameters import FACTS, Parameter
from salttide.files.picture import ACCEPTED, LARGEST_BYTES
from salttide.store import handover as store

from .context import Context, In, Key, context
from .handover import LINGERS, CarerSheet, carer_sheet, sheets_of
from .models import Id, Model, Recorded, RequestModel
from .picture import save_one

router = APIRouter(prefix="/api/visits/{token}", tags=["visit"])
Token = Annotated[str, Path(min_length=1, max_length=60)]


class VisitPage(Model):
    """The carer's page, and the keeper's date."""

    today: str
    sheet: CarerSheet


class ReportBody(RequestModel):
    """A report of a visit to one system: done (by key), readings (as typed), observed, used and advised."""

    system_id: Id
    done: list[str] = Field(default_factory=list, max_length=40)
    measured: dict[str, str] = Field(default_factory=dict, max_length=6)
    found: str = Field("", max_length=1000)
    used: str = Field("", max_length=300)
    advised: str = Field("", max_length=1000)
    pictures: list[Id] = Field(default_factory=list, max_length=8)


class PictureTaken(Model):
    """A picture saved for a report."""

    id: int


@router.get("")
def page(token: Token, ctx: In) -> VisitPage:
    """The carer's sheet, for the carer."""
    kept = _kept(ctx, token)
    sheets = sheets_of(ctx, kept.away.first, kept.away.last, kept.request)
    return VisitPage(today=ctx.today.isoformat(), sheet=carer_sheet(ctx, kept.away, kept.request, sheets))


def _kept(ctx: Context, token: str) -> store.HandOverKept:
    kept = store.hand_over_of(ctx.connection, token)
    if ctx.today > kept.away.last + LINGERS:
        raise NotFoundError(phrase("visit.this_hand_over_has_ended"))
    return kept


@router.post("/reports", status_code=201)
def report(token: Token, body: ReportBody, ctx: In, key: Key) -> Recorded:
    """Send the report of a visit to the keeper, who accepts it or sets it aside."""
    kept = _kept(ctx, token)
    sheets = sheets_of(ctx, kept.away.first, kept.away.last, kept.request)
    sheet = next((one for one in sheets if one.system.id == body.system_id), None)
    if sheet is None:
        raise refused("visit.this_system_is_not_on_the", "system_id", "visit.one_from_the_page")
    # Portions were laid out for the visit nearest to today.
    visits = sorted(sheet.visits, key=lambda visit: abs((visit.day - ctx.today).days))
    laid_out = {work.key: work for visit in reversed(visits) for work in visit.work}
    unknown = [each for each in body.done if each not in laid_out]
    if unknown:
        raise refused("visit.this_is_not_on_the_carer", "done", "visit.something_listed_on_the_page")
    done = tuple(laid_out[each] for each in dict.fromkeys(body.done))
    report = _report(ctx, kept, body, done)
    if not (done or report.measured or report.found or report.used or report.advised or report.pictures):
        raise refused("visit.enter_what_was_done_read_or", "done", "visit.at_least_one_thing")
    return ctx.record_as(key, phrase("visit.report_sent"), lambda c: store.add_report(c, report, key))


def _report(ctx: Context, kept: store.HandOverKept, body: ReportBody, done: tuple[VisitWork, ...]) -> store.Report:
    measured = {name: _measured(ctx, name, text) for name, text in body.measured.items() if text.strip()}
    return store.Report(
        0, kept.away.id, body.system_id, ctx.now, done, measured, body.found.strip(), body.used.strip(),
        body.advised.strip(), tuple(body.pictures),
    )  # fmt: skip


def _measured(ctx: Context, name: str, text: str) -> float:
    if name not in WATCHED:
        raise refused("visit.this_was_not_asked_for", f"measured.{name}", takes=", ".join(WATCHED))
    parameter = Parameter(name)
    instrument, keeper = Instrument(UNNAMED, parameter, FACTS[parameter].sd), ctx.keeper
    return at_field(
        f"measured.{name}", lambda: read_entry(text, instrument, "", keeper.units, keeper.habits.sign).value
    )


MAX_PICTURES = 60
"""The most pictures a carer may send for one absence."""


def _check_upload(ctx: Context, token: str, system_id: int) -> None:
    """A carer's picture is of a system on the sheet, and there are not too many of them."""
    kept = _kept(ctx, token)
    sheets = sheets_of(ctx, kept.away.first, kept.away.last, kept.request)
    if all(sheet.system.id != system_id for sheet in sheets):
        raise refused("visit.this_system_is_not_on_the", "system_id", "visit.one_from_the_page")
    if store.visit_pictures(ctx.connection, kept.away.first) >= MAX_PICTURES:
        raise refused("visit.pictures_were_sent_already_describe", "file", count=MAX_PICTURES)


@router.post("/systems/{system_id}/pictures", status_code=201)
async def picture(token: Token, system_id: Id, request: Request, key: Key) -> PictureTaken:
    """Save a picture for a report, sent as the body of the request."""
    ctx = context(request)
    await run_in_threadpool(_check_upload, ctx, token, system_id)
    data = bytearray()
    async for piece in request.stream():
        data += piece
        if len(data) > LARGEST_BYTES:
            raise refused("common.this_picture_is_too_large", "file", takes=ACCEPTED)
    kept = await run_in_threadpool(save_one, context(request), system_id, key, bytes(data), ("visit", "", ""))
    return PictureTaken(id=kept.picture.id)
