"""Litres that a step counts, bucket by bucket or straight to the mark."""

from __future__ import annotations

from dataclasses import dataclass

from .steps import NEXT_TO_NOTHING_L, CountAim, Counted, Progress, RunbookContext, StepState


@dataclass(frozen=True)
class Counting:
    """The litres a step counts: its aim, the total (as many in as came out), the next bucketful, and whether they run
    straight to the mark."""

    aim: CountAim
    target_l: float
    next_l: float
    straight: bool


def counting_of(setting: RunbookContext, state: StepState, now: Progress) -> Counting:
    """What a counting step still needs."""
    count = state.step.count
    aim = setting.counts[count] if count else CountAim(0, 1)
    drained = now.counted(Counted.OUT)
    target = drained if count == Counted.IN and drained > 0 else aim.litres
    left = max(0.0, target - state.total_l)
    straight = setting.holds("straight") and count == Counted.OUT
    measure = min(left if straight else aim.by_l, left) if left > NEXT_TO_NOTHING_L else aim.by_l
    return Counting(aim, target, measure, straight)
