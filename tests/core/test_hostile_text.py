"""Whatever is typed: the small grammars answer, or refuse with a place or a field, and never fall over."""

import unittest
from dataclasses import replace
from math import inf

from hypothesis import example, given, settings
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.basics.locale import Writing, written_as
from salttide.core.basics.number_text import DecimalSign, show_number
from salttide.core.basics.quantities import Habits
from salttide.core.jot.reader import JotError
from salttide.core.jot.record import complete, record_line
from salttide.core.science.label import read_label, read_printed_at
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import unit_named
from tests.core.test_jot_record import CONTEXT

WORDS = ["alk", "ca", "7.9", "8,1", "beacon", "dosed", "40", "ml", "soda", "stock", "change", "l", "topped off", "fed",
         "mysids", "scraped", "front", "lost", "1", "goby", "yesterday", "2 h ago", "in", "skiff", "note", "and", "=",
         "%", "x", "-3", "1e5", "١٢", "∞", "9999999999999999", "min", "with", "kittiwake"]  # fmt: skip
LINES = st.lists(st.sampled_from(WORDS) | st.text(max_size=6), max_size=9).map(" ".join)
DKH = unit_named(Parameter.ALKALINITY, "dKH")


class Jot(unittest.TestCase):
    @settings(max_examples=300, deadline=None)
    @given(LINES)
    @example("note")
    @example("in")
    @example("alk 7.9 in")
    @example("1e999 l")
    def test_any_line_is_understood_or_pointed_at(self, text):
        try:
            found = record_line(text, CONTEXT)
        except JotError as error:
            self.assertTrue(0 <= error.start <= error.end <= len(text))
            self.assertTrue(error.message)
            return
        self.assertTrue(found.items)
        self.assertTrue(all(part.at <= CONTEXT.now for part in found.parts))

    @settings(max_examples=200, deadline=None)
    @given(LINES)
    @example("A!")
    def test_any_line_can_be_asked_how_it_goes_on(self, text):
        for start, phrase in complete(text, CONTEXT):
            typed = text[start:].lower().split()
            self.assertTrue(phrase.startswith(" ".join(typed)))

    @given(st.floats(6, 12).map(lambda value: round(value, 1)), st.sampled_from(list(DecimalSign)))
    def test_a_value_comes_back_whatever_the_decimal_sign(self, value, sign):
        context = replace(CONTEXT, jot=replace(CONTEXT.jot, habits=Habits(sign)))
        (item,) = record_line(f"alk {show_number(value, 1, sign)}", context).items
        self.assertAlmostEqual(DKH.from_canonical(item.event.value), value, places=6)


class Labels(unittest.TestCase):
    @settings(max_examples=300, deadline=None)
    @given(st.text(max_size=30) | st.lists(st.sampled_from(["8", "9.5", "±", "–", "to", "at least", "dKH", "-", "%"]),
                                           max_size=6).map(" ".join))  # fmt: skip
    def test_any_text_is_read_or_refused(self, text):
        for read in (lambda: read_label(Parameter.ALKALINITY, text, DKH), lambda: read_printed_at(text)):
            try:
                read()
            except InputError as error:
                self.assertTrue(error.message)

    @given(
        st.sampled_from([Parameter.CALCIUM, Parameter.MAGNESIUM]),
        st.integers(300, 1500),
        st.integers(0, 60),
        st.sampled_from(["{low} ± {give}", "{low}–{high}", "{low} to {high}", "at least {low}", "{low}"]),
        st.sampled_from(list(DecimalSign)),
    )
    def test_every_form_comes_back_as_it_was_printed(self, parameter, low, give, form, sign):
        unit = unit_named(parameter, "mg/L")
        span = read_label(parameter, form.format(low=low, give=give, high=low + give), unit, sign=sign)
        wanted = {
            "{low} ± {give}": (low - give, low + give),
            "at least {low}": (low, inf),
            "{low}": (low, low),
        }.get(form, (low, low + give))
        self.assertEqual((span.low, span.high), wanted)


class Numbers(unittest.TestCase):
    @given(st.floats(-1e6, 1e6), st.integers(0, 4))
    def test_the_sign_is_all_that_a_keeper_changes(self, value, decimals):
        plain = show_number(value, decimals)
        with written_as(Writing(DecimalSign.COMMA)):
            self.assertEqual(show_number(value, decimals), plain.replace(".", ","))
