"""A simulated dosing pump: it runs a schedule file and errs as pumps do: it drifts, clogs and runs dry."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import dataclass, field
from random import Random


@dataclass
class Head:
    """One head with its container: what is scheduled by minute of the day, mL, and its hidden state.

    flow: delivered share of what it believes to deliver · drift: loss of that share a day · waver: scatter of a dose.
    """

    name: str
    doses: list[tuple[int, float]]
    content_ml: float
    flow: float = 1.0
    drift: float = 0.0
    waver: float = 0.01
    given_ml: float = 0.0
    dry_since: float | None = None


@dataclass
class DosingPump:
    """Several heads that run one schedule. `day` counts on as it runs."""

    heads: dict[str, Head]
    chance: Random
    day: float = 0.0
    log: list[tuple[float, str, float]] = field(default_factory=list)

    @classmethod
    def from_json(cls, text: str, contents_ml: dict[str, float], seed: int) -> DosingPump:
        """A pump with a schedule file as JSON."""
        schedule = json.loads(text)
        heads = {}
        for one in schedule["pumps"]:
            doses = [(_minute(dose["time"]), float(dose["ml"])) for dose in one["doses"]]
            heads[one["container"]] = Head(one["container"], doses, contents_ml[one["container"]])
        return cls(heads, Random(f"pump {seed}"))

    @classmethod
    def from_csv(cls, text: str, contents_ml: dict[str, float], seed: int) -> DosingPump:
        """A pump with a schedule file as CSV."""
        heads: dict[str, Head] = {}
        for row in csv.DictReader(io.StringIO(text)):
            name = row["container"]
            head = heads.setdefault(name, Head(name, [], contents_ml[name]))
            head.doses.append((_minute(row["time"]), float(row["ml"])))
        return cls(heads, Random(f"pump {seed}"))

    def run_day(self) -> dict[str, float]:
        """Run one day of the schedule. Returns what each head really delivered, mL."""
        came = dict.fromkeys(self.heads, 0.0)
        turns = sorted((minute, name, ml) for name, head in self.heads.items() for minute, ml in head.doses)
        for minute, name, ml in turns:
            came[name] += self._give(self.heads[name], ml, self.day + minute / 1440)
        for head in self.heads.values():
            head.flow *= 1 - head.drift
        self.day += 1
        return came

    def _give(self, head: Head, ml: float, at: float) -> float:
        wanted = max(0.0, ml * head.flow * self.chance.gauss(1, head.waver))
        out = min(wanted, head.content_ml)
        if out < wanted and head.dry_since is None:
            head.dry_since = at
        head.content_ml -= out
        head.given_ml += out
        self.log.append((at, head.name, out))
        return out

    def clog(self, name: str, lost_share: float) -> None:
        """Lose a share of the flow from now on, as by a crust at the tube's end or a worn tube."""
        self.heads[name].flow *= 1 - lost_share

    def calibrate(self, name: str) -> None:
        """Calibrate by a timed volume: right again, within a measuring cup's error."""
        self.heads[name].flow = self.chance.gauss(1, 0.015)

    def caught_ml(self, name: str, ml: float) -> float:
        """The volume caught in a cup after the head was told to dose `ml`."""
        head = self.heads[name]
        return max(0.0, self._give(head, ml, self.day) + self.chance.gauss(0, 0.2))

    def refill(self, name: str, ml: float) -> None:
        """Fill a container up to a volume."""
        self.heads[name].content_ml = ml
        self.heads[name].dry_since = None

    def level_ml(self, name: str, sd_ml: float) -> float:
        """The container's level as a keeper reads it."""
        return max(0.0, self.chance.gauss(self.heads[name].content_ml, sd_ml))


def _minute(text: str) -> int:
    hours, minutes = text.split(":")
    return int(hours) * 60 + int(minutes)
