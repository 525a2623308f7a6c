"""Changes by their purpose and with other water, one row each, the sums beside it; and the tank side.

Box: 100 x 50 x 40 cm, no rock, no sump: 200 L; 5 L a cm. dKH to meq/L by 2.80385. Kittiwake 2.95 meq/L, Ca 428, Mg 1315
at 35 ppt, 37.1 g/L. Limits: salinity 1 ppt, alkalinity 1 dKH, Ca 20, Mg 50 mg/L, phosphate down a third a day.
"""

import unittest
from dataclasses import dataclass, field, replace

from salttide.core.basics.errors import DomainError, InputError, PlanError, RuleError
from salttide.core.planning.change import largest_fraction, plan_change, summary_words
from salttide.core.planning.change_request import Emergency, NewWater, Purpose
from salttide.core.planning.plumbing import Drain, tank_side
from salttide.core.planning.work_order import Water
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.plumbing import Plumbing, check_service
from salttide.core.system.system import Stage
from salttide.core.system.volume import Geometry, SaltTest, Sump, display_chamber
from tests.core.cases import BEACON, PLAINMARK, WATER, dkh, request

T, S, A = Parameter.TEMPERATURE, Parameter.SALINITY, Parameter.ALKALINITY
CA, MG, NO3, PO4, K = (Parameter.CALCIUM, Parameter.MAGNESIUM, Parameter.NITRATE, Parameter.PHOSPHATE,
                       Parameter.POTASSIUM)  # fmt: skip
BOX = replace(BEACON, name="Box", geometry=Geometry(100, 50, 40))
SMALL = replace(BOX, methods=replace(BOX.methods, largest_fraction=1.0, change_fraction=0.8))
NEW = replace(BOX, stage=Stage.BREAKING_IN)
STILL = {S: 35.0, A: dkh(8.0)}


def held(kind=Water.NATURAL, litres=None, **values):
    holds = {Parameter(name): Span(value, value) for name, value in values.items()}
    return NewWater(kind, "natural seawater", holds, litres)


@dataclass
class Case:
    """A request and what it comes to: the fractions of its changes, and values at the end (canonical)."""

    name: str
    request: dict
    fractions: tuple
    after: dict
    water: dict = field(default_factory=dict)
    system: object = BOX
    drift: dict = field(default_factory=dict)
    reached: bool = True
    cautions: tuple = ()
    absent: tuple = ()
    left: float = 1.0


BRING, RESTORE, DILUTE = Purpose.BRING, Purpose.RESTORE, Purpose.DILUTE
CASES = [
    # 20 to 16 by water without nitrate: 1 - 16/20 = 20 %, one change.
    Case("nitrate in one change", {"purpose": BRING, "aim": (NO3, 16.0), "fraction": 0.25}, (0.2,), {NO3: 16.0}),
    # 20 to 8, a quarter at most: 15, 11.25, then 8.4375 is not there: 8.4375 to 8 is 5.19 %.
    Case("nitrate in four", {"purpose": BRING, "aim": (NO3, 8.0), "fraction": 0.25}, (0.25, 0.25, 0.25, 1 - 8 / 8.4375),
         {NO3: 8.0}),
    # With 1 mg/L a day made, every 2 days: 15, 17 -> 12.75, 14.75 -> 12: 1 - 12/14.75 = 18.64 %.
    Case("nitrate with what is made between", {"purpose": BRING, "aim": (NO3, 12.0), "fraction": 0.25},
         (0.25, 0.25, 1 - 12 / 14.75), {NO3: 12.0}, drift={NO3: 1.0}),
    # 4 mg/L a day: 15, 23: what is made between takes back more than was removed.
    Case("nitrate that is made faster than it is removed", {"purpose": BRING, "aim": (NO3, 5.0), "fraction": 0.25},
         (0.25,), {NO3: 15.0}, drift={NO3: 4.0}, reached=False),
    # Phosphate 0.08 may fall by a third a day: to 0.0533, a change of a third; but a quarter is the largest: 0.06,
    # 0.045, 0.04: 1 - 0.04/0.045 = 11.1 %.
    Case("phosphate down", {"purpose": BRING, "aim": (PO4, 0.04), "fraction": 0.25}, (0.25, 0.25, 1 - 0.04 / 0.045),
         {PO4: 0.04}),
    # With half allowed, the day's third holds it: 0.08 -> 0.0533, then 25 %: 0.04.
    Case("phosphate by the day's limit", {"purpose": BRING, "aim": (PO4, 0.04), "fraction": 0.5},
         (1 / 3, 0.25), {PO4: 0.04}, cautions=("beyond_method",)),
    # Calcium 380 to 400 by Kittiwake's 428: 20/48 = 41.7 %, a quarter at most: 392, then 8/36 = 22.2 %.
    Case("calcium restored", {"purpose": RESTORE, "aim": (CA, 400.0), "fraction": 0.25}, (0.25, 8 / 36), {CA: 400.0},
         water={CA: 380.0}),
    # Magnesium 1150 to 1230 by 1315: half allowed: 82.5 wanted, limit 50 a day: 50/165 = 30.3 %; 1200 to 1230: 30/115.
    Case("magnesium by the day's limit", {"purpose": RESTORE, "aim": (MG, 1230.0), "fraction": 0.5},
         (50 / 165, 30 / 115), {MG: 1230.0}, water={MG: 1150.0}),
    # Something poisonous to a quarter: 0.75^5 = 0.2373 is the first under 0.25; routine sizes of a quarter.
    Case("dilute to a quarter", {"purpose": DILUTE, "left": 0.25, "fraction": 0.25}, (0.25,) * 5, {},
         left=0.75**5, cautions=("contamination",)),
    # In an emergency half at once: 0.5, 0.25: two changes.
    Case("dilute in an emergency", {"purpose": DILUTE, "left": 0.25, "fraction": 0.5, "emergency": Emergency.POISON},
         (0.5, 0.5), {}, left=0.25, cautions=("contamination", "beyond_method")),
    # Near-total, 90 %: nitrate 20 -> 2; the batch at the system's salinity; alkalinity by its limit.
    Case("near-total where the method has it", {"purpose": Purpose.NEAR_TOTAL, "fraction": 0.9, "salinity": 35.0},
         (0.9,), {NO3: 2.0, S: 35.0}, system=SMALL, absent=("beyond_method",)),
    # The first change of a new system: nitrate 50 to 10: 80 %.
    Case("first change after cycling", {"purpose": Purpose.FIRST, "aim": (NO3, 10.0), "fraction": 0.8},
         (0.8,), {NO3: 10.0}, water={NO3: 50.0}, system=NEW, absent=("breaking_in",)),
    # Natural seawater of 35 ppt, 2.3 meq/L (6.449 dKH), Ca 422: 8.0 x 0.85 + 6.449 x 0.15 = 7.767; Ca 410 -> 411.8.
    Case("natural seawater", {"fraction": 0.15, "water": held(salinity=35.0, alkalinity=2.3, calcium=422.0)},
         (0.15,), {A: dkh(8.0 * 0.85 + 2.3 * DKH_PER_MEQ_L * 0.15), CA: 410 * 0.85 + 422 * 0.15}, cautions=("stored",)),
    # Of 33 ppt: 2 away, half of it would move the system by the whole ppt: 50 % is just allowed; 60 % is not asked.
    Case("natural seawater that is too weak", {"fraction": 0.5, "water": held(salinity=32.0, alkalinity=2.85)},
         (1 / 3,), {S: 34.0}, cautions=("plume",)),
    # 20 L are there: 10 % instead of 15.
    Case("stored water that does not reach", {"fraction": 0.15, "water": held(Water.STORED, 20.0, salinity=35.0)},
         (0.1,), {S: 35.0}, cautions=("stored",)),
    # Nitrate 20 to 10 with 60 L of it that holds 2 mg/L: 25 % (50 L): 15.5; then the last 10 L: 5 %: 14.825.
    Case("stored water used up on the way",
         {"purpose": BRING, "aim": (NO3, 10.0), "fraction": 0.25,
          "water": held(Water.STORED, 60.0, salinity=35.0, nitrate=2.0)},
         (0.25, 0.05), {NO3: 14.825}, reached=False),
    # Another system's water: nitrate 2, phosphate 0.02: 20 -> 17.3 and 0.08 -> 0.071 with 15 %.
    Case("water of another system",
         {"fraction": 0.15, "water": held(Water.SYSTEM, salinity=35.0, alkalinity=dkh(8), nitrate=2.0, phosphate=0.02)},
         (0.15,), {NO3: 17.3, PO4: 0.071}, absent=("stored",)),
    # Natural water lifted to the system's 8.0 dKH by a dose into it: nothing moves.
    Case("natural seawater dosed to match",
         {"fraction": 0.15, "water": held(salinity=35.0, alkalinity=2.3), "alkalinity_meq_l": dkh(8.0)},
         (0.15,), {A: dkh(8.0)}),
]  # fmt: skip


class ByPurpose(unittest.TestCase):
    def plan(self, case):
        water = WATER | STILL | case.water
        asked = request(**{"salinity": None, **case.request})
        return plan_change(case.system, water, asked, case.drift)

    def test_each_comes_to_what_the_sums_say(self):
        for case in CASES:
            plan = self.plan(case)
            changes = [step for step in plan.steps if step.fraction]
            with self.subTest(case=case.name):
                self.assertEqual(len(changes), len(case.fractions), [step.fraction for step in changes])
                for step, fraction in zip(changes, case.fractions, strict=True):
                    self.assertAlmostEqual(step.fraction, fraction, places=4)
                for parameter, value in case.after.items():
                    self.assertAlmostEqual(changes[-1].after[parameter].middle, value, places=3)
                self.assertEqual(plan.reached, case.reached)
                self.assertLessEqual(set(case.cautions), set(plan.cautions))
                self.assertFalse(set(case.absent) & set(plan.cautions))
                if case.left < 1:
                    self.assertAlmostEqual(plan.left, case.left)

    def test_a_change_that_is_cut_says_why(self):
        for name, words in (("natural seawater that is too weak", "past the daily limit"),
                            ("stored water that does not reach", "there are 20.0 L")):  # fmt: skip
            case = next(one for one in CASES if one.name == name)
            with self.subTest(case=name):
                self.assertTrue(any(words in remark for remark in self.plan(case).steps[0].remarks))

    def test_the_summary_names_what_bound_it_and_nothing_else(self):
        weak = {"fraction": 0.2, "water": held(salinity=20.0, alkalinity=dkh(8.0))}
        strong = {"purpose": Purpose.NEAR_TOTAL, "fraction": 0.95, "water": held(salinity=35.0, alkalinity=dkh(9.6285))}
        for name, system, water, asked, words in (
            # 15 ppt away, 1 ppt a day: 1/15 = 6.7 % of the water.
            ("weak natural water", BOX, {}, weak,
             "One change of 6.7 % instead of 20.0 %, held by the daily limit of salinity, 1.0 ppt."),
            # 1.6285 dKH above the system's 8.0, 1 dKH a day: 61.4 %.
            ("near-total with strong water", SMALL, {}, strong,
             "One change of 61.4 % instead of 95.0 %, held by the daily limit of alkalinity, 1.0 dKH."),
            # 20 to 8 takes four quarters; nitrate has no daily limit downwards.
            ("nitrate", BOX, {}, {"purpose": BRING, "aim": (NO3, 8.0), "fraction": 0.25},
             "4 changes, held by changes of at most 25.0 %: at target on"),
            ("magnesium", BOX, {MG: 1150.0}, {"purpose": RESTORE, "aim": (MG, 1230.0), "fraction": 0.5},
             "2 changes, held by the daily limit of magnesium, 50 mg/L"),
            ("stored water", BOX, {}, {"fraction": 0.15, "water": held(Water.STORED, 20.0, salinity=35.0)},
             "One change of 10.0 % instead of 15.0 %, held by the 20.0 L of it that there are."),
            ("dilute", BOX, {}, {"purpose": DILUTE, "left": 0.25, "fraction": 0.25},
             "5 changes, held by changes of at most 25.0 %"),
            ("all at once", BOX, {}, {"purpose": BRING, "aim": (NO3, 16.0), "fraction": 0.25}, "One change is enough."),
        ):  # fmt: skip
            with self.subTest(case=name):
                plan = plan_change(system, WATER | STILL | water, request(**{"salinity": None, **asked}))
                self.assertIn(words, summary_words(plan))
        plan = plan_change(SMALL, WATER | STILL, request(salinity=None, **strong))
        self.assertIn("held by the daily limit of alkalinity, 0.36 meq/L.", summary_words(plan, {A: "meq/L"}))

    def test_moving_salinity_uses_the_whole_limit_wherever_it_stands_in_its_band(self):
        # 33 to 36 by 25 %: a batch 4 ppt away moves it by 1 ppt: three changes of the whole limit, not six of 0.5.
        plan = plan_change(
            BOX, WATER | STILL | {S: 33.0}, request(purpose=Purpose.SALINITY, salinity=36.0, fraction=0.25)
        )
        self.assertEqual([round(step.after[S].middle, 6) for step in plan.steps if step.fraction], [34.0, 35.0, 36.0])
        # 10 % of water 5 ppt away at most moves it by 0.5: that is said.
        plan = plan_change(
            BOX, WATER | STILL | {S: 33.0}, request(purpose=Purpose.SALINITY, salinity=36.0, fraction=0.1)
        )
        self.assertIn("6 changes, held by new water at most 5.0 ppt from the system's", summary_words(plan))

    def test_a_target_that_is_reached_already_is_said_to_be(self):
        for purpose, system, parameter in ((Purpose.FIRST, NEW, NO3), (BRING, BOX, NO3), (RESTORE, BOX, CA)):
            with self.subTest(purpose=purpose), self.assertRaises(PlanError) as raised:
                plan_change(system, WATER | STILL, request(purpose=purpose, aim=(parameter, WATER[parameter])))
            self.assertEqual(raised.exception.field, "target")
            self.assertIn("there already", raised.exception.message)

    def test_water_that_is_there_needs_no_salt_and_has_a_dose_of_its_own(self):
        case = next(one for one in CASES if one.name == "natural seawater dosed to match")
        step = self.plan(case).steps[0]
        # (2.85322 - 2.3) x 30 L x 52.994 / 1000 = 0.8796 g.
        self.assertEqual(step.batch.mass_g, 0)
        self.assertAlmostEqual(step.batch_dose_g, 0.8796, places=3)

    def test_what_it_holds_is_carried_only_as_far_as_it_is_known(self):
        step = plan_change(BOX, WATER | STILL, request(water=held(salinity=35.0))).steps[0]
        self.assertEqual(set(step.incoming), {S})
        self.assertNotIn(NO3, step.after)

    def test_what_cannot_be_is_refused_with_what_would_help(self):
        for name, asked, error, words in (
            ("salt from which it does not come", {"purpose": RESTORE, "aim": (K, 400.0)}, PlanError, "says nothing"),
            ("lower bound alone", {"purpose": RESTORE, "aim": (CA, 420.0), "salt": replace(PLAINMARK, values={})},
             PlanError, "says nothing"),
            ("water that is no purer", {"purpose": BRING, "aim": (NO3, 5.0), "water": held(salinity=35.0, nitrate=8.0)},
             PlanError, "never to 5"),
            ("water of unknown nitrate", {"purpose": BRING, "aim": (NO3, 5.0), "water": held(salinity=35.0)}, PlanError,
             "Measure nitrate"),
            ("water of unknown salinity", {"water": held(alkalinity=2.3)}, PlanError, "Measure the salinity"),
            ("never measured", {"purpose": BRING, "aim": (Parameter.SILICATE, 0.1)}, PlanError, "Test silicate first"),
            ("near-total without the method", {"purpose": Purpose.NEAR_TOTAL, "fraction": 0.9}, RuleError,
             "25 % at most"),
            ("more than half", {"fraction": 0.6}, DomainError, "1 to 50 %"),
            ("nothing left", {"purpose": DILUTE, "left": 0.0}, DomainError, "1 to 95 %"),
        ):  # fmt: skip
            with self.subTest(case=name):
                with self.assertRaises(error) as raised:
                    plan_change(BOX, {**WATER, **STILL} | {K: 380.0}, request(**asked))
                self.assertIn(words, raised.exception.message)

    def test_breaking_in_waits_save_for_danger_and_for_the_first_change(self):
        with self.assertRaises(RuleError):
            plan_change(NEW, WATER | STILL, request())
        plan_change(NEW, WATER | STILL, request(emergency=Emergency.AMMONIA))
        plan_change(NEW, WATER | STILL, request(purpose=Purpose.FIRST))

    def test_how_large_one_change_may_be(self):
        for system, asked, largest in (
            (BOX, request(), 0.5), (SMALL, request(), 0.95), (BOX, request(emergency=Emergency.POISON), 0.8),
            (NEW, request(purpose=Purpose.FIRST), 0.8), (SMALL, request(purpose=Purpose.NEAR_TOTAL), 0.95),
        ):  # fmt: skip
            self.assertEqual(largest_fraction(system, asked), largest)

    def test_the_salt_that_is_left_is_counted(self):
        # Four changes of nitrate: 50 + 50 + 50 + 10.37 L x 37.1 = 5950 g at 35 ppt.
        asked = {"purpose": BRING, "aim": (NO3, 8.0), "fraction": 0.25, "salinity": 35.0}
        plan = plan_change(BOX, WATER | STILL, request(**asked, salt_left_g=4000.0))
        self.assertAlmostEqual(plan.salt_g, (150 + 200 * (1 - 8 / 8.4375)) * 37.1, delta=2)
        self.assertAlmostEqual(plan.short_g, plan.salt_g - 4000, places=6)
        self.assertIn("5.95 kg of salt are needed, 1.95 kg are missing", summary_words(plan))
        self.assertEqual(plan_change(BOX, WATER | STILL, request(**asked, salt_left_g=9000.0)).short_g, 0)


class AtTheTank(unittest.TestCase):
    SERVICE = Plumbing(bore_mm=16, hose_m=3, head_cm=80, pump_l_h=600, fall_cm=1.5, outlet_cm=6, rim_cm=40)
    SUMP = replace(BOX, geometry=replace(BOX.geometry, sump=Sump(60, 40, 25)))

    def side(self, litres=30.0, system=None, service=None, **drain):
        return tank_side(system or self.SUMP, service or self.SERVICE, litres, Drain(**drain))

    def test_the_display_falls_by_its_own_footprint(self):
        # 30 L over 5000 cm2: 6 cm; two buckets of 15 L; 30 L at 600 L/h: 3 min.
        side = self.side()
        self.assertAlmostEqual(float(side.mark), 6.0)
        self.assertEqual((side.litres_per_cm, side.buckets, float(side.fill)), (5.0, 2, 3.0))

    def test_rock_takes_room_on_the_way_down_and_sand_only_below_its_own_height(self):
        # A 40 cm cube with 9 L displaced holds 55 L: 1600 - 9000/40 = 1375 cm2; 52.25 L (95 %) are 38.0 cm down.
        cube = replace(BOX, geometry=Geometry(40, 40, 40, 9.0))
        self.assertAlmostEqual(float(self.side(52.25, cube).mark), 38.0)
        self.assertEqual(self.side(52.25, cube).litres_per_cm, 1.375)
        # The same 9 L as grains of 9.375 cm of sand (1600 x 9.375 x 0.6 = 9 L): 30.625 cm over it hold 49 L; 3.25 more
        # between the grains: 3250 / (1600 x 0.4) = 5.078 cm.
        sandy = replace(BOX, geometry=Geometry(40, 40, 40, 9.0, sand_bed_cm=9.375))
        self.assertAlmostEqual(float(self.side(48.0, sandy).mark), 30.0)
        self.assertAlmostEqual(float(self.side(52.25, sandy).mark), 30.625 + 5.078, places=3)
        # All that is in it is at its floor; more is refused with how much it holds.
        self.assertAlmostEqual(float(self.side(55.0, cube).mark), 40.0)
        with self.assertRaises(DomainError) as raised:
            self.side(56.0, cube)
        self.assertEqual((raised.exception.field, raised.exception.high), ("litres", 55.0))

    def test_where_the_volume_was_measured_the_rest_of_the_measures_is_rock(self):
        # 250 g of pure salt raise V litres from 34 to 35: V = 250 (1000 - 35.165) / (1000 x 1.02259 x 1.00472) = 234.8;
        # the box is 250 L, so 15.2 L are rock.
        tested = Geometry(100, 50, 50, 0.0, salt_test=SaltTest(250.0, 34.0, 35.0))
        self.assertAlmostEqual(display_chamber(tested).rock_l, 15.2, delta=0.3)

    def test_the_sump_falls_by_its_own(self):
        # 30 L over 2400 cm2: 12.5 cm of its 25.
        side = self.side(sump_falls=True)
        self.assertAlmostEqual(float(side.mark), 12.5)
        self.assertEqual(side.litres_per_cm, 2.4)

    def test_a_sump_that_does_not_hold_it_or_has_no_measures(self):
        with self.assertRaises(DomainError) as raised:
            self.side(80.0, sump_falls=True)
        self.assertEqual(raised.exception.high, 60.0)
        with self.assertRaises(PlanError):
            self.side(system=BOX, sump_falls=True)

    def test_what_drains_back_against_the_sumps_room(self):
        # 5000 cm2 x 1.5 cm = 7.5 L; a failed break at 6 cm: 30 L; room 2400 x (40 - 25) = 36 L.
        side = self.side()
        self.assertEqual((float(side.back), float(side.broken), float(side.room)), (7.5, 30.0, 36.0))
        self.assertEqual((side.holds_back, side.holds_broken), (True, True))
        low = self.side(service=replace(self.SERVICE, rim_cm=30))
        # Room 12 L: what drains back fits, a failed break does not.
        self.assertEqual((low.holds_back, low.holds_broken), (True, False))
        self.assertIsNone(self.side(system=BOX).holds_back)

    def test_zones_and_sides_share_what_is_drained(self):
        self.assertEqual(self.side(zones=("left", "right")).zones, (("left", 15.0), ("right", 15.0)))
        self.assertEqual(self.side().zones, ())

    def test_a_tube_as_long_as_the_water_is_deep(self):
        self.assertEqual(self.side().tube_cm, 40.0)

    def test_minutes_are_told_where_the_hose_ends_low_enough(self):
        # 16 mm, 80 cm, 3 m flow about 19 L/min: 30 L in about 1.6 min.
        self.assertAlmostEqual(float(self.side().minutes), 1.6, delta=0.1)
        self.assertIsNone(self.side(service=replace(self.SERVICE, head_cm=5)).minutes)

    def test_wrong_measures_are_refused_at_their_field(self):
        for changes, name in (({"bore_mm": 1}, "bore_mm"), ({"hose_m": 0}, "hose_m"), ({"head_cm": 900}, "head_cm"),
                              ({"pump_l_h": -1}, "pump_l_h"), ({"heater_w": 9000}, "heater_w"),
                              ({"fall_cm": 200}, "fall_cm"), ({"rim_cm": 0}, "rim_cm")):  # fmt: skip
            with self.subTest(field=name), self.assertRaises(DomainError) as raised:
                check_service(replace(self.SERVICE, **changes))
            self.assertEqual(raised.exception.field, name)
        with self.assertRaises(InputError) as raised:
            self.side(service=replace(self.SERVICE, rim_cm=20))
        self.assertEqual(raised.exception.field, "rim_cm")
        with self.assertRaises(DomainError) as raised:
            self.side(keep_l=50.0)
        self.assertEqual(raised.exception.field, "keep_l")
