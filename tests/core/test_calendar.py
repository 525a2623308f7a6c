"""The rota as a calendar: the order of a day, identities that stay, and what is told anew or withdrawn."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Care
from salttide.core.upkeep.calendar import (
    CalendarSettings,
    Entry,
    EntryState,
    Issued,
    Work,
    brought_up,
    check_calendar_settings,
    entries_of,
)
from salttide.core.upkeep.rota import Occurrence
from salttide.core.upkeep.task import tasks

ZONE = ZoneInfo("Europe/Copenhagen")
NOW = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)
TODAY = date(2026, 11, 24)


def item(task, in_days, minutes=5.0, **more):
    day = TODAY + timedelta(days=in_days)
    kind = tasks()[task]
    return Occurrence(task, kind.name, day, day, day, day, minutes, "every 4 days", kind=kind, **more)


def work(*ahead, past=(), counts=None, number=1):
    return Work(number, "Beacon", ahead, past, counts or {})


def entries(*works, request=None):
    return entries_of("home", works, request or CalendarSettings(), ZONE, NOW)


class Entries(unittest.TestCase):
    def test_a_days_work_is_told_one_task_after_the_other_from_the_hour_wished_for(self):
        found = entries(
            work(item("skimmer_cup", 1, 5), item("scrape_front", 1, 12)),
            work(item("salt_creep", 1, 3), number=2),
            request=CalendarSettings(begins=time(7, 30)),
        )
        self.assertEqual([each.starts.strftime("%d %H:%M") for each in found], ["25 07:30", "25 07:35", "25 07:47"])
        self.assertEqual(found[-1].ends.strftime("%H:%M"), "07:50")
        self.assertEqual([each.alarm for each in found], [True, False, False])

    def test_the_nth_time_of_a_task_is_the_same_entry_ahead_moved_and_done(self):
        ahead = entries(work(item("skimmer_cup", 1), item("skimmer_cup", 5), counts={"skimmer_cup": 7}))
        self.assertEqual([each.uid for each in ahead], [f"home-1-skimmer_cup-{n}@salt-tide" for n in (8, 9)])
        moved = entries(work(replace(item("skimmer_cup", 1), day=TODAY + timedelta(days=3)), counts={"skimmer_cup": 7}))
        self.assertEqual(moved[0].uid, ahead[0].uid)
        done = Care(NOW, "skimmer_cup", 6.0)
        after = entries(work(item("skimmer_cup", 4), past=[done], counts={"skimmer_cup": 8}))
        self.assertEqual([(each.uid, each.state) for each in after],
                         [(ahead[0].uid, EntryState.DONE), (ahead[1].uid, EntryState.OPEN)])  # fmt: skip
        # Six minutes that ended at 18:40 there.
        self.assertEqual(after[0].starts.strftime("%H:%M"), "18:34")

    def test_planned_steps_have_their_own_identity_and_do_not_count(self):
        change = item("water_change", 2, step_id=31)
        found = entries(work(change, item("water_change", 9), counts={"water_change": 4}))
        self.assertEqual([each.uid for each in found], ["home-1-step-31@salt-tide", "home-1-water_change-5@salt-tide"])

    def test_what_was_skipped_says_why_and_what_is_long_ago_is_left_out(self):
        past = [
            Care(NOW - timedelta(days=31), "skimmer_cup", 5.0),
            Care(NOW - timedelta(days=2), "skimmer_cup", 0.0, True, "was away"),
        ]
        (found,) = entries(work(past=past, counts={"skimmer_cup": 2}))
        self.assertEqual((found.state, found.text, found.minutes), (EntryState.SKIPPED, "was away", 1))
        self.assertEqual(found.uid, "home-1-skimmer_cup-2@salt-tide")

    def test_it_says_why_how_long_until_when_and_what_to_mind(self):
        window = replace(item("powerheads", 1), latest=TODAY + timedelta(days=8), zone="left")
        (found,) = entries(work(window))
        self.assertEqual(found.title, f"Beacon: {tasks()['powerheads'].name}, left")
        self.assertIn("It may stand from Wed 25 Nov to Wed 2 Dec.", found.text)
        self.assertIn("Caution: acids and unplugged", found.text)
        (late,) = entries(work(replace(item("salt_creep", 0), late_days=3)))
        self.assertIn("3 days late.", late.text)

    def test_an_alarm_further_off_than_a_day_is_refused(self):
        for minutes in (-1, 1441):
            with self.assertRaises(InputError) as refused:
                check_calendar_settings(CalendarSettings(alarm_minutes=minutes))
            self.assertEqual(refused.exception.field, "alarm_minutes")
        self.assertIsNone(check_calendar_settings(CalendarSettings(alarm_minutes=None)).alarm_minutes)


def entry(uid="a", days=1, state=EntryState.OPEN, title="Beacon: scrape"):
    return Entry(uid, "Beacon", title, "", NOW + timedelta(days=days), 5, state)


def known(*issued):
    return {each.entry.uid: each for each in issued}


def told(found):
    return [(each.entry.uid, each.sequence, each.entry.state) for each in found]


class BroughtUp(unittest.TestCase):
    before = NOW - timedelta(hours=3)

    def test_what_differs_gets_the_next_number_and_what_does_not_keeps_its_own(self):
        old = Issued(entry(), 2, self.before)
        self.assertEqual(brought_up({}, [entry()], NOW), [Issued(entry(), 0, NOW)])
        self.assertEqual(brought_up(known(old), [entry()], NOW), [old])
        self.assertEqual(brought_up(known(old), [entry(days=3)], NOW), [Issued(entry(days=3), 3, NOW)])

    def test_what_is_gone_is_withdrawn_for_a_while_and_may_come_back(self):
        gone = brought_up(known(Issued(entry(), 2, self.before)), [], NOW)
        self.assertEqual(told(gone), [("a", 3, EntryState.WITHDRAWN)])
        self.assertEqual(brought_up(known(*gone), [], NOW + timedelta(days=60)), gone)
        self.assertEqual(brought_up(known(*gone), [], NOW + timedelta(days=61)), [])
        back = brought_up(known(*gone), [entry()], NOW)
        self.assertEqual(told(back), [("a", 4, EntryState.OPEN)])

    def test_what_was_done_long_ago_is_forgotten_without_a_word(self):
        done = Issued(entry(days=-31, state=EntryState.DONE), 1, self.before)
        self.assertEqual(brought_up(known(done), [], NOW), [])
        lately = Issued(entry(days=-3, state=EntryState.DONE), 1, self.before)
        self.assertEqual(told(brought_up(known(lately), [], NOW)), [("a", 2, EntryState.WITHDRAWN)])

    @given(st.lists(st.lists(st.tuples(st.sampled_from("abc"), st.integers(0, 3)), unique_by=lambda pair: pair[0]),
                    max_size=6))  # fmt: skip
    def test_a_number_never_falls_and_each_identity_is_there_once(self, days):
        kept: dict[str, Issued] = {}
        for number, there in enumerate(days):
            at = NOW + timedelta(hours=number)
            found = brought_up(kept, [entry(uid, day) for uid, day in there], at)
            self.assertEqual(len({each.entry.uid for each in found}), len(found))
            for each in found:
                old = kept.get(each.entry.uid)
                self.assertGreaterEqual(each.sequence, old.sequence if old else 0)
                if old and old.entry != each.entry:
                    self.assertEqual((each.sequence, each.changed), (old.sequence + 1, at))
            self.assertLessEqual(kept.keys(), {each.entry.uid for each in found})
            kept = known(*found)
