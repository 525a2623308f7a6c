"""Derivations: what is shown is what was computed."""

import ast
import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.phrasing import counted, listed
from salttide.core.basics.working import Formula, FormulaInput, Step
from salttide.core.planning import change_step
from salttide.core.planning.change import plan_change
from salttide.core.science import additives, mix
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system import system
from tests.core.cases import BEACON, WATER, dkh, request

MODULES = (additives, change_step, mix, system)
FORMULAS = [value for module in MODULES for value in vars(module).values() if isinstance(value, Formula)]


class Formulas(unittest.TestCase):
    def test_one_text_is_computed_and_shown(self):
        formula = Formula("x", "a test", "2 * a - b ** 2", "L", "none")
        step = formula.compute(a=FormulaInput(5, "L"), b=FormulaInput(3, "L"))
        self.assertEqual((step.value, step.formula), (1.0, "2 · a − b ^ 2"))

    def test_a_symbol_that_was_not_given_is_an_error_and_nothing_else_is_in_reach(self):
        for expression in ("a * missing", "__import__('os')", "open('x')"):
            with self.subTest(expression=expression), self.assertRaises(NameError):
                Formula("x", "a test", expression, "", "").compute(a=FormulaInput(1, ""))

    def test_every_formula_of_the_core_names_its_unit_its_source_and_only_its_own_symbols(self):
        self.assertGreaterEqual(len(FORMULAS), 15)
        for formula in FORMULAS:
            with self.subTest(formula=formula.name):
                self.assertTrue(formula.source)
                self.assertIsInstance(ast.parse(formula.expression, mode="eval"), ast.Expression)


class PlanWorkings(unittest.TestCase):
    def steps(self, **changes: object) -> list[Step]:
        plan = plan_change(BEACON, WATER | {Parameter.ALKALINITY: dkh(6.5)}, request(**changes))
        return [step for day in plan.steps for working in day.working.values() for step in working]

    @given(st.floats(0.05, 0.25), st.floats(34, 36), st.floats(2.4, 3.4))
    def test_every_line_can_be_recomputed_from_what_it_shows(self, fraction, salinity, alkalinity):
        by_text = {formula.displayed: formula for formula in FORMULAS}
        for step in self.steps(fraction=fraction, salinity=salinity, alkalinity_meq_l=alkalinity):
            again = by_text[step.formula].value(**{symbol: given.value for symbol, given in step.inputs})
            self.assertEqual(again, step.value)

    def test_inputs_carry_their_units_and_where_they_come_from(self):
        for step in self.steps(salinity=34.8, alkalinity_meq_l=dkh(8.5)):
            for symbol, given_ in step.inputs:
                with self.subTest(step=step.name, symbol=symbol):
                    self.assertTrue(given_.note or given_.unit)


class Spans(unittest.TestCase):
    def test_nearest_and_holds(self):
        span = Span(2, 4)
        self.assertEqual([span.nearest(value) for value in (1, 3, 5)], [2, 3, 4])
        self.assertEqual([span.holds(value) for value in (1.99, 2, 4, 4.01)], [False, True, True, False])


class Words(unittest.TestCase):
    def test_lists_and_counts(self):
        self.assertEqual([listed([]), listed(["a"]), listed(["a", "b"])], ["", "a", "a and b"])
        self.assertEqual([counted(1, "day"), counted(3, "day"), counted(0, "bucket")], ["1 day", "3 days", "0 buckets"])
