"""The trial of calm at a size that a run of the tests bears: the same bars as the measuring script."""

import unittest

from tests.calm_trial import random_acts


class Calm(unittest.TestCase):
    def test_what_is_done_skipped_or_moved_changes_little_else(self) -> None:
        found = random_acts(16)
        self.assertEqual(found.percentile(50), 0)
        self.assertLessEqual(found.percentile(95), 2)
        # Today's list never gains a task because something was finished early.
        self.assertEqual(found.gained, 0)
