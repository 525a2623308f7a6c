"""The uptake of a system, for all parts of Dosing."""

from salttide.household.uptake import UptakeContext

from .context import Context


def uptake_of(ctx: Context, system_id: int) -> UptakeContext:
    """The uptake of a system at this request."""
    return UptakeContext(ctx.household, ctx.household.system(system_id))
