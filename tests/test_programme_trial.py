"""Programmes in the fish room: cleared in the stated weeks by a keeper who forgets; none stripped, no fish starved."""

import unittest

from salttide.core.programme.file import PhaseKind, programmes
from salttide.fishroom.growth import GrowthKind, Surface
from tests.programme_trial import KINDS, LEAST, followed, the_usual_way

RUNS = 25


class Trial(unittest.TestCase):
    def test_four_of_five_tanks_are_nearly_clear_in_the_stated_weeks(self):
        for key in KINDS:
            weeks = programmes()[key].weeks
            found = [followed(key, seed, weeks * 7) for seed in range(RUNS)]
            usual = [the_usual_way(key, seed, weeks * 7) for seed in range(RUNS)]
            with self.subTest(key):
                self.assertGreaterEqual(sum(one.under(weeks) for one in found), 0.8 * RUNS)
                self.assertLess(sum(one.under(weeks) for one in usual), 0.2 * RUNS)
                self.assertEqual(sum(one.stripped for one in found), 0)
                self.assertGreaterEqual(min(one.least_fed for one in found), LEAST)
                for one in found:
                    self.assertEqual(one.course.stages[0].phase.kind, PhaseKind.FIND)

    def test_whoever_leaves_most_of_it_undone_does_not_get_there(self):
        for key in ("cyanobacteria", "hair_algae_export"):
            weeks = programmes()[key].weeks
            found = [followed(key, seed, weeks * 7, forgets=0.7) for seed in range(RUNS)]
            with self.subTest(key):
                self.assertLess(sum(one.under(weeks) for one in found), 0.3 * RUNS)

    def test_the_lamps_have_their_hours_again_when_it_is_over(self):
        ended = [one for seed in range(8) if (one := followed("hair_algae", seed)).course.stage.phase.key == "watch"]
        self.assertTrue(ended)
        for one in ended:
            short = max((stage.cut for stage in one.course.stages), default=0.0)
            self.assertGreater(one.light_h, 8.9, f"cut by {short} h")


class Model(unittest.TestCase):
    """The model does what it says: each cause moves it the right way, everything else alike."""

    def after(self, kind=GrowthKind.FILM, days=20, **more) -> float:
        tank = Surface(kind, 0.1, 5.0, 0.05)
        for name, value in more.items():
            setattr(tank, name, value)
        for _ in range(days):
            tank.live()
        return tank.cover

    def test_light_flow_nutrients_grazers_and_company(self):
        film, hair, strands = GrowthKind.FILM, GrowthKind.HAIR, GrowthKind.STRANDS
        self.assertLess(self.after(film, light_h=5.0), self.after(film))
        self.assertLess(self.after(film, still=0.3), self.after(film))
        self.assertLess(self.after(film, muck=0.0, nitrate=0.0, portion=(0.0, 0.0)), self.after(film, nitrate=0.0))
        self.assertLess(self.after(hair, nitrate=0.0, portion=(0.0, 0.0)), self.after(hair))
        self.assertLess(self.after(hair, grazers=0.05), self.after(hair))
        self.assertLess(self.after(strands, others=0.9, nitrate=10.0), self.after(strands, others=0.0, nitrate=0.0))
        self.assertLess(self.after(strands, steriliser=True, swims=0.9), self.after(strands, steriliser=True))
        self.assertLess(self.after(strands, dark_days=20), self.after(strands))

    def test_what_grows_takes_nutrients_up(self):
        tank = Surface(GrowthKind.HAIR, 0.3, 5.0, 0.05, fed=0.0, exports=0.0)
        tank.live()
        self.assertLess(tank.nitrate, 5.0)
        tank.take_out(0.5)
        self.assertLess(tank.nitrate, 2.5)


if __name__ == "__main__":
    unittest.main()
