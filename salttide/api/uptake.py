"""What a system uses up, as the parts of Dosing ask for it."""

from salttide.household.uptake import UptakeContext

from .context import Context


def uptake_of(ctx: Context, system_id: int) -> UptakeContext:
    """What is known of a system's uptake at this request."""
    return UptakeContext(ctx.household, ctx.stored.system(system_id))
