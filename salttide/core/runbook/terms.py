"""The terms data files of runbooks may use: slots of texts, flags, lists and times, by subject."""

from __future__ import annotations

from collections.abc import Mapping

from .emergency import AMOUNTS
from .steps import Subject

SLOTS: Mapping[Subject, frozenset[str]] = {
    Subject.CHANGE: frozenset({
        "litres", "mark", "falls", "how", "zones", "keep", "water", "temperature", "salinity", "alkalinity", "ph",
        "dose", "source", "dissolve", "tool", "fill", "on_order",
    }),
    Subject.BATCH: frozenset({
        "litres", "fresh", "container", "headroom", "salt", "mass", "spoons", "salinity", "temperature", "alkalinity",
        "source_water", "heat", "keeps", "doses",
    }),
    Subject.SYSTEM: frozenset({
        "cool", "air", "tub", "volume", "outage", "temperature", "still", "tool", "back", "broken", *AMOUNTS,
    }),
}  # fmt: skip
FLAGS: Mapping[Subject, frozenset[str]] = {
    Subject.CHANGE: frozenset({
        "dose", "siphon", "keep", "heater", "skimmer", "zones", "straight", "buckets", "sump_falls", "hose",
    }),
    Subject.BATCH: frozenset({"doses", "heater"}),
    Subject.SYSTEM: frozenset({"heater", "skimmer", "powerhead", "return_pump", "top_off", "sump"}),
}  # fmt: skip
LISTS: Mapping[Subject, frozenset[str]] = {
    Subject.CHANGE: frozenset({"off", "on", "kit", "siphon"}),
    Subject.BATCH: frozenset({"kit", "doses"}),
    Subject.SYSTEM: frozenset({"off", "on"}),
}
TIMES: Mapping[Subject, frozenset[str]] = {
    Subject.CHANGE: frozenset(),
    Subject.BATCH: frozenset({"mixing"}),
    Subject.SYSTEM: frozenset(),
}
