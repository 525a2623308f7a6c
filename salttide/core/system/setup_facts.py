"""A system's set-up in words, and what an edit changed."""

from __future__ import annotations

from collections.abc import Mapping

from ..basics.measures import length_words, litres_words
from ..basics.number_text import show_number
from ..basics.phrasing import listed
from ..science.parameters import Parameter, spoken
from ..science.units import UnitChoice, show, show_difference
from .catalogue import gear_kinds, method_questions
from .system import System


def setup_facts(system: System, units: UnitChoice) -> dict[str, str]:
    """The set-up by name, as a keeper reads it."""
    methods, limits = system.methods, system.own_limits
    kinds = gear_kinds()
    facts = {
        "Name": system.name,
        "What lives in it": system.stock,
        "Stage": system.stage.value.replace("_", " "),
        "Net volume": litres_words(system.volume_l),
        "Panels": system.panel.value,
        "Panels kept clean": listed([panel.value for panel in system.clean_panels]),
        "Sand": methods.sand.value,
        "Sand bed": length_words(system.geometry.sand_bed_cm),
        "Source water": system.source_water.value,
        "Routine change": f"{show_number(methods.change_fraction * 100, 0)} % every {methods.change_every_days} days",
        "Largest change": f"{show_number(methods.largest_fraction * 100, 0)} %",
        "Salinity, most in a day": show_difference(Parameter.SALINITY, limits.salinity, 35.0, units),
        "Alkalinity, most in a day": show_difference(Parameter.ALKALINITY, limits.alkalinity_meq_l, 3.0, units),
        "Temperature, most in a day": show_difference(Parameter.TEMPERATURE, limits.temperature_c, 25.0, units),
        "Gear": listed([kinds[key].name for key in system.gear if key in kinds]),
        "Bucket": litres_words(system.bucket_l, 0),
        "Method": methods.note,
    }
    bands = {
        f"Band of {spoken(parameter)}": f"{show(parameter, band.low, units)} to {show(parameter, band.high, units)}"
        for parameter, band in system.bands.items()
    }
    aims = {
        f"Aim of {spoken(parameter)}": show(parameter, own.level, units) + (f", {own.reason}" if own.reason else "")
        for parameter, own in system.own_aims.items()
    }
    return facts | bands | aims | _answers(methods.answers)


def _answers(answers: Mapping[str, str]) -> dict[str, str]:
    questions = method_questions()
    return {
        questions[key].name: questions[key].choices[choice].name
        for key, choice in answers.items()
        if key in questions and choice in questions[key].choices
    }


def setup_changes(before: System, after: System, units: UnitChoice) -> list[str]:
    """What an edit changed, each as "name: before → after"."""
    old, new = setup_facts(before, units), setup_facts(after, units)
    return [
        f"{name}: {old.get(name) or 'none'} → {new.get(name) or 'none'}"
        for name in {**old, **new}
        if old.get(name, "") != new.get(name, "")
    ]
