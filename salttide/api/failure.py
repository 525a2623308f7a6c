"""The failure board of a system, and how it is installed: levels, top-off, heat."""

import sqlite3

from fastapi import APIRouter

from salttide.core.basics.phrases import phrase
from salttide.core.system.system import System
from salttide.household.installation import installation_of
from salttide.store import installation as installation_store
from salttide.store import system as system_store

from .context import In, Key
from .failure_shown import FailureBoard, board_shown
from .installation_body import InstallationBody, body_of, installed
from .models import Id, Recorded

router = APIRouter(prefix="/api/systems/{system_id}", tags=["failure"])


@router.get("/failures")
def failures(system_id: Id, ctx: In) -> FailureBoard:
    """What can fail in a system, the worst that nothing keeps away first."""
    return board_shown(installation_of(ctx.household, ctx.household.system(system_id)))


@router.post("/failures/preview")
def preview(system_id: Id, body: InstallationBody, ctx: In) -> FailureBoard:
    """The board as it would be with another installation; nothing is stored."""
    system = installed(ctx, ctx.household.system(system_id), body)
    return board_shown(installation_of(ctx.household, system))


@router.get("/installation")
def installation(system_id: Id, ctx: In) -> InstallationBody:
    """The levels, the top-off and the heating of a system, in the keeper's units."""
    return body_of(ctx, ctx.household.system(system_id))


@router.put("/installation")
def save_installation(system_id: Id, body: InstallationBody, ctx: In, key: Key) -> Recorded:
    """Store how a system is installed; can be undone."""
    system: System = installed(ctx, ctx.household.system(system_id), body)

    def act(connection: sqlite3.Connection) -> str:
        system_store.remember_setup(connection, system_id, key)
        installation_store.save(connection, system)
        system_store.keep_version(connection, system_id, ctx.now)
        return phrase("failure.saved", system=system.name)

    return ctx.record(key, act)
