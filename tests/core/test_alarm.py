"""Alarms: when a value counts and is over, sensors that cannot be believed, who is told, and what a controller says.

Moments are minutes after noon, worked out by hand beside each case.
"""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.alarm.alarm import BY_HAND, LIMIT, Alarm, Ended, over_words, title_of, words_of
from salttide.core.alarm.follow import INSIDE, Sample, Side, follow, lasted
from salttide.core.alarm.letter import letter_of
from salttide.core.alarm.report import heard_of
from salttide.core.alarm.sensor_faults import (
    SensorFault,
    Span,
    drift_of,
    fastest_an_hour,
    out_of_water_at,
    silent_since,
    stuck_since,
)
from salttide.core.alarm.signals import ON, AlarmLimit, check_limit, signals, usual_limit
from salttide.core.alarm.telling import (
    AlarmSetup,
    Channel,
    Contact,
    MailSecurity,
    Message,
    Occasion,
    Told,
    check_setup,
    messages_due,
    next_try,
)
from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Reading
from salttide.core.overview.pressing import pressing_in
from salttide.core.science.parameters import Parameter
from salttide.core.system.heating import Heating
from tests.core.cases import BEACON

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
HOT = AlarmLimit("temperature", 23.0, 28.0, back=0.5, hold_min=10)
LEAK = AlarmLimit("leak", None, ON, hold_min=2)


def at(minutes: float) -> datetime:
    return NOON + timedelta(minutes=minutes)


def samples(*pairs: tuple[float, float]) -> list[Sample]:
    return [Sample(at(minutes), value) for minutes, value in pairs]


def turned(limit: AlarmLimit, *pairs: tuple[float, float]) -> list[tuple[float, bool, str]]:
    """The turns as minutes after noon, whether it was over, and the side."""
    _, turns = follow(limit, INSIDE, samples(*pairs))
    return [((turn.at - NOON) / timedelta(minutes=1), turn.over, turn.side.value) for turn in turns]


class Following(unittest.TestCase):
    def test_a_value_counts_once_it_has_lasted_and_is_over_when_it_is_well_back(self) -> None:
        # Passed at 5; still beyond at 15: ten minutes. 27.8 and 27.6 are under 28 but not half a degree; 27.5 is.
        seen = turned(HOT, (0, 27.9), (5, 28.1), (10, 28.4), (15, 28.2), (20, 27.8), (25, 27.6), (30, 27.5))
        self.assertEqual(seen, [(15, False, "high"), (30, True, "high")])

    def test_a_spike_that_is_gone_in_time_does_not_count(self) -> None:
        self.assertEqual(turned(HOT, (0, 28.5), (5, 25.0), (10, 28.5), (15, 25.0), (20, 25.0)), [])

    def test_a_value_that_dances_about_its_limit_counts_from_its_first_step(self) -> None:
        # Never half a degree back inside: it has been beyond since 0.
        self.assertEqual(turned(HOT, (0, 28.1), (4, 27.9), (8, 28.1), (12, 27.9)), [(12, False, "high")])

    def test_a_gap_in_measured_values_says_nothing_of_what_lay_between(self) -> None:
        self.assertEqual(turned(HOT, (0, 28.5), (60, 25.0)), [])

    def test_one_side_follows_on_the_other(self) -> None:
        seen = turned(HOT, (0, 28.5), (10, 28.5), (15, 22.0), (25, 22.0), (30, 23.4), (35, 23.5))
        self.assertEqual(seen, [(10, False, "high"), (15, True, "high"), (25, False, "low"), (35, True, "low")])

    def test_the_worst_is_the_furthest_on_its_side(self) -> None:
        stands, _ = follow(HOT, INSIDE, samples((0, 22.9), (5, 21.4), (10, 22.2)))
        self.assertEqual((stands.side, stands.worst, stands.counts), (Side.LOW, 21.4, True))

    def test_a_contact_stays_as_it_is_until_it_says_otherwise(self) -> None:
        # On at 0, not heard again till 30: it was on for more than two minutes, from the second minute on.
        self.assertEqual(turned(LEAK, (0, 1), (30, 0)), [(2, False, "high"), (30, True, "high")])
        self.assertEqual(turned(LEAK, (0, 1), (1, 0)), [])

    def test_a_contact_counts_by_the_clock_without_being_heard_again(self) -> None:
        stands, turns = follow(LEAK, INSIDE, samples((0, 1)))
        self.assertEqual(turns, [])
        self.assertFalse(lasted(LEAK, stands, at(1.9), turns).counts)
        self.assertTrue(lasted(LEAK, stands, at(2), turns).counts)
        self.assertEqual([turn.at for turn in turns], [at(2)])

    def test_what_is_not_later_than_the_last_is_left_out(self) -> None:
        stands, _ = follow(HOT, INSIDE, samples((10, 25.0)))
        again, turns = follow(HOT, stands, samples((5, 30.0), (10, 30.0)))
        self.assertEqual((again, turns), (stands, []))

    @given(
        st.lists(st.tuples(st.integers(1, 9), st.floats(21.0, 30.0)), max_size=30),
        st.lists(st.integers(0, 30), max_size=4),
        st.sampled_from([HOT, replace(HOT, low=None), replace(HOT, hold_min=0), LEAK]),
    )
    def test_how_samples_are_divided_changes_nothing(self, gaps, cuts, limit) -> None:
        minutes, all_samples = 0.0, []
        for gap, value in gaps:
            minutes += gap
            all_samples.append(Sample(at(minutes), value if limit is not LEAK else float(value > 26)))
        whole = follow(limit, INSIDE, all_samples)
        stands, turns = INSIDE, []
        edges = [0, *sorted(min(cut, len(all_samples)) for cut in cuts), len(all_samples)]
        for first, last in itertools.pairwise(edges):
            stands, found = follow(limit, stands, all_samples[first:last])
            turns += found
        self.assertEqual((stands, turns), whole)

    @given(st.lists(st.tuples(st.integers(1, 30), st.floats(20.0, 31.0)), max_size=40))
    def test_it_begins_and_ends_in_turn(self, gaps) -> None:
        minutes, all_samples = 0.0, []
        for gap, value in gaps:
            minutes += gap
            all_samples.append(Sample(at(minutes), value))
        stands, turns = follow(HOT, INSIDE, all_samples)
        self.assertEqual([turn.over for turn in turns], [bool(i % 2) for i in range(len(turns))])
        self.assertEqual(stands.counts, len(turns) % 2 == 1)


class Limits(unittest.TestCase):
    def test_a_usual_limit_lies_beyond_the_band(self) -> None:
        band = BEACON.bands[Parameter.TEMPERATURE]
        usual = usual_limit(signals()["temperature"], BEACON)
        self.assertEqual((usual.low, usual.high), (band.low - 1.0, band.high + 1.0))

    def test_every_usual_limit_can_be_used(self) -> None:
        for signal in signals().values():
            with self.subTest(signal=signal.key):
                check_limit(usual_limit(signal, BEACON))

    def test_what_cannot_work_is_refused_at_its_field(self) -> None:
        for wrong, field in (
            (replace(HOT, low=None, high=None), "low"),
            (replace(HOT, low=28.0), "low"),
            (replace(HOT, back=2.6), "back"),
            (replace(HOT, back=-0.1), "back"),
            (replace(HOT, high=50.0), "high"),
            (replace(HOT, hold_min=721), "hold_min"),
        ):
            with self.subTest(limit=wrong), self.assertRaises(InputError) as caught:
                check_limit(wrong)
            self.assertEqual(caught.exception.field, field)
        self.assertEqual(check_limit(replace(HOT, back=2.5)).back, 2.5)


class Sensors(unittest.TestCase):
    def test_silence_is_three_readings_that_did_not_come_and_a_quarter_of_an_hour(self) -> None:
        for every_s, minutes, silent in ((60, 15, False), (60, 16, True), (600, 30, False), (600, 31, True)):
            with self.subTest(every=every_s, after=minutes):
                self.assertEqual(silent_since(NOON, every_s, at(minutes)), NOON if silent else None)

    def hours(self, *values: float | tuple[float, float]) -> list[Span]:
        ends = [value if isinstance(value, tuple) else (value, value) for value in values]
        return [Span(NOON + timedelta(hours=i), low, high) for i, (low, high) in enumerate(ends)]

    def test_stuck_is_half_a_day_at_one_value_after_a_life_that_moved(self) -> None:
        moving = [(25.0 + i % 3 / 10, 25.2 + i % 3 / 10) for i in range(24)]
        self.assertEqual(stuck_since(self.hours(*moving, *[25.1] * 12)), NOON + timedelta(hours=24))
        self.assertIsNone(stuck_since(self.hours(*moving, *[25.1] * 11)))
        self.assertIsNone(stuck_since(self.hours(*moving, *[25.1] * 12, (25.1, 25.2))))

    def test_a_sensor_that_often_stands_still_is_not_stuck(self) -> None:
        still = [(25.0, 25.1), *[25.1] * 8, (25.0, 25.1), *[25.0] * 7]
        self.assertIsNone(stuck_since(self.hours(*still, (25.0, 25.2), *[25.2] * 14)))
        self.assertIsNone(stuck_since(self.hours(*[25.2] * 20)))

    def test_water_cannot_move_as_fast_as_a_probe_that_hangs_in_air(self) -> None:
        # Six scatters of 0.1 beside the fastest possible: 25 to 22 in five minutes is 36 degrees an hour.
        out = samples((0, 25.0), (5, 25.0), (10, 22.0), (15, 21.2), (20, 21.1))
        self.assertEqual(out_of_water_at(Parameter.TEMPERATURE, out, 0.1, BEACON), at(10))
        back = [*out, *samples((25, 24.9))]
        self.assertIsNone(out_of_water_at(Parameter.TEMPERATURE, back, 0.1, BEACON))
        slow = samples(*((5.0 * i, 25.0 - 0.05 * i) for i in range(40)))
        self.assertIsNone(out_of_water_at(Parameter.TEMPERATURE, slow, 0.1, BEACON))

    def test_a_conductivity_probe_in_air_reads_next_to_nothing(self) -> None:
        self.assertEqual(out_of_water_at(Parameter.SALINITY, samples((0, 35.0), (60, 0.2)), 0.2, BEACON), at(60))
        self.assertIsNone(out_of_water_at(Parameter.SALINITY, samples((0, 35.0), (5, 34.6)), 0.2, BEACON))

    def test_the_fastest_is_by_the_heaters_and_the_rooms_that_were_entered(self) -> None:
        weak, strong = (replace(BEACON, heating=Heating(heaters_w=(watts,))) for watts in (100.0, 1000.0))
        fast = [fastest_an_hour(Parameter.TEMPERATURE, 25.0, one) for one in (weak, strong)]
        # 900 W more warm V litres of 4090 J/(L K) by 900 * 3600 / 4090 / V degrees an hour more.
        self.assertGreater(fast[1], 900 * 3600 / 4090 / BEACON.volume_l * 0.9)
        self.assertGreater(fast[1], fast[0])
        self.assertIsNone(fastest_an_hour(Parameter.ALKALINITY, 3.0, BEACON))

    def reading(self, days: float, value: float, name: str) -> Reading:
        return Reading(NOON - timedelta(days=days), Parameter.PH, value, 0.03, name)

    def test_drift_needs_two_pairs_that_agree(self) -> None:
        # Joint scatter 0.03 * sqrt(2) = 0.0424; twice that is 0.085: a gap of 0.1 is real, 0.08 is not.
        probe = [self.reading(day, 8.2, "P1") for day in (14, 7, 0)]
        for gaps, drift in (((0.1, 0.12), 0.11), ((0.1, 0.08), None), ((0.1, -0.1), None), ((-0.1, -0.14), -0.12)):
            tests = [self.reading(day, 8.2 - gap, "kit") for day, gap in zip((7, 0), gaps, strict=True)]
            with self.subTest(gaps=gaps):
                found = drift_of(probe, tests, NOON)
                self.assertEqual(found if found is None else round(found, 6), drift)
        far = [replace(self.reading(7, 8.0, "kit"), at=NOON - timedelta(days=7, hours=2))]
        self.assertIsNone(drift_of(probe, [*far, self.reading(0, 8.0, "kit")], NOON))


NIGHT = {"quiet_from": time(22), "quiet_to": time(7)}
KIT = Contact("Kit", 1, webhook="http://127.0.0.1/a")
NEXT_DOOR = Contact("next door", 2, email="door@home.test")
SETUP = AlarmSetup((KIT, NEXT_DOOR), look_min=15, again_min=60, mail_host="mail.home.test", mail_from="tide@home.test")


class Telling(unittest.TestCase):
    def due(self, alarm: Told, now: datetime, setup: AlarmSetup = SETUP, sent: list[Message] | None = None):
        found = messages_due(alarm, setup, sent or [], now, ZoneInfo("UTC"))
        return [(one.contact, one.occasion.value, one.round, (one.due - NOON) / timedelta(minutes=1)) for one in found]

    def test_the_first_are_told_at_once_and_the_next_when_nobody_looked(self) -> None:
        alarm = Told(NOON, wakes=True)
        self.assertEqual(self.due(alarm, NOON), [("Kit", "began", 0, 0)])
        self.assertEqual(self.due(alarm, at(15)), [("Kit", "began", 0, 0), ("next door", "began", 0, 15)])
        self.assertEqual(self.due(replace(alarm, seen=at(14)), at(20)), [])

    def test_it_is_told_again_until_somebody_looks(self) -> None:
        alarm, sent = Told(NOON, wakes=True), [Message("Kit", Channel.WEBHOOK, Occasion.BEGAN, 0, NOON)]
        only = replace(SETUP, contacts=(KIT,))
        self.assertEqual(self.due(alarm, at(130), only, sent), [("Kit", "began", 1, 60), ("Kit", "began", 2, 120)])
        self.assertEqual(self.due(replace(alarm, seen=at(70)), at(69), only, sent), [("Kit", "began", 1, 60)])
        self.assertEqual(self.due(replace(alarm, seen=at(70)), at(130), only, sent), [])
        self.assertEqual(self.due(alarm, at(130), replace(only, again_min=0), sent), [])

    def test_that_it_is_over_hears_who_was_told_that_it_began(self) -> None:
        alarm, sent = Told(NOON, True, over=at(10)), [Message("Kit", Channel.WEBHOOK, Occasion.BEGAN, 0, NOON)]
        self.assertEqual(self.due(alarm, at(30), sent=sent), [("Kit", "over", 0, 10)])
        # Who is added afterwards does not hear of what is over.
        self.assertEqual(self.due(alarm, at(30), sent=[]), [])

    def test_quiet_hours_hold_back_what_does_not_wake(self) -> None:
        # 22:30 is 630 minutes after noon; 07:00 next morning is 1140.
        sleeper = replace(SETUP, contacts=(replace(KIT, **NIGHT),))
        late = at(630)
        self.assertEqual(self.due(Told(late, wakes=True), late, sleeper), [("Kit", "began", 0, 630)])
        self.assertEqual(self.due(Told(late, wakes=False), at(1139), sleeper), [])
        self.assertEqual(self.due(Told(late, wakes=False), at(1140), sleeper), [("Kit", "began", 0, 1140)])
        # Over before the quiet hours are: nobody hears of it.
        self.assertEqual(self.due(Told(late, False, over=at(900)), at(1200), sleeper), [])

    def test_nobody_else_is_woken_for_what_the_first_are_not_told_at_night(self) -> None:
        # The first are told at 07:00, 1140 minutes after noon; next door a quarter of an hour later.
        night = replace(SETUP, contacts=(replace(KIT, **NIGHT), NEXT_DOOR))
        self.assertEqual(self.due(Told(at(630), wakes=False), at(1139), night), [])
        both = [("Kit", "began", 0, 1140), ("next door", "began", 0, 1155)]
        self.assertEqual(self.due(Told(at(630), wakes=False), at(1160), night), both)
        second = replace(SETUP, contacts=(NEXT_DOOR,))
        self.assertEqual(self.due(Told(NOON, wakes=True), NOON, second), [("next door", "began", 0, 0)])

    def test_quiet_hours_are_by_the_keepers_clock_over_a_change_of_it(self) -> None:
        # 25 October 2026: clocks in Copenhagen go back at 03:00; 07:00 there is 06:00 UTC.
        zone, evening = ZoneInfo("Europe/Copenhagen"), datetime(2026, 10, 24, 21, tzinfo=UTC)
        self.assertEqual(replace(KIT, **NIGHT).ready(evening, zone), datetime(2026, 10, 25, 6, tzinfo=UTC))
        day = replace(KIT, quiet_from=time(13), quiet_to=time(15))
        self.assertEqual(
            day.ready(datetime(2026, 11, 24, 13, tzinfo=UTC), zone), datetime(2026, 11, 24, 14, tzinfo=UTC)
        )
        self.assertEqual(
            day.ready(datetime(2026, 11, 24, 14, tzinfo=UTC), zone), datetime(2026, 11, 24, 14, tzinfo=UTC)
        )

    @given(st.integers(0, 1440), st.booleans(), st.lists(st.integers(0, 600), min_size=1, max_size=8))
    def test_looking_more_often_makes_no_message_twice_and_leaves_none_out(self, start, wakes, looks) -> None:
        raised = at(start)
        alarm = Told(raised, wakes)
        setup = replace(SETUP, contacts=(replace(KIT, **NIGHT), NEXT_DOOR))
        made: list[Message] = []
        for minutes in sorted(looks):
            found = messages_due(alarm, setup, made, raised + timedelta(minutes=minutes), ZoneInfo("UTC"))
            made += found
        once = messages_due(alarm, setup, [], raised + timedelta(minutes=max(looks)), ZoneInfo("UTC"))
        key = lambda one: (one.due, one.contact, one.round)  # noqa: E731
        self.assertEqual(sorted(made, key=key), sorted(once, key=key))

    def test_a_message_is_tried_for_a_day(self) -> None:
        # After 1, 2, 5, 15 and then every 60 minutes.
        waits = [(next_try(tries, NOON, at(100)) - at(100)) / timedelta(minutes=1) for tries in (1, 2, 3, 4, 5, 9)]
        self.assertEqual(waits, [1, 2, 5, 15, 60, 60])
        self.assertIsNone(next_try(30, NOON, at(24 * 60)))

    def test_what_cannot_reach_anybody_is_refused_at_its_field(self) -> None:
        for wrong, field in (
            (replace(SETUP, contacts=(replace(KIT, name=" "),)), "contacts.0.name"),
            (replace(SETUP, contacts=(KIT, replace(KIT, name="KIT"))), "contacts.1.name"),
            (replace(SETUP, contacts=(replace(KIT, webhook=""),)), "contacts.0.webhook"),
            (replace(SETUP, contacts=(replace(KIT, webhook="file:///etc/passwd"),)), "contacts.0.webhook"),
            (replace(SETUP, contacts=(replace(KIT, webhook="http://"),)), "contacts.0.webhook"),
            (replace(SETUP, contacts=(replace(NEXT_DOOR, email="a@b\nBcc: c@d"),)), "contacts.0.email"),
            (replace(SETUP, contacts=(replace(KIT, quiet_from=time(22)),)), "contacts.0.quiet_to"),
            (replace(SETUP, mail_host=""), "mail_host"),
            (replace(SETUP, mail_from="nobody"), "mail_from"),
            (replace(SETUP, look_min=0), "look_min"),
        ):
            with self.subTest(field=field), self.assertRaises(InputError) as caught:
                check_setup(wrong)
            self.assertEqual(caught.exception.field, field)
        self.assertEqual(check_setup(SETUP).mail_security, MailSecurity.STARTTLS)


ALARM = Alarm(1, "temperature", "T1", LIMIT, at(-30), NOON, Side.HIGH, 28.0, 28.4, 29.1, id=7)
ZONE = ZoneInfo("UTC")


class Words(unittest.TestCase):
    def test_an_alarm_says_what_since_when_and_how_far(self) -> None:
        self.assertEqual(title_of(ALARM, {}), "Too hot: 29.1 °C")
        words = "Temperature by T1 has been above 28.0 °C since 11:30 on Tue 24 Nov."
        self.assertEqual(words_of(ALARM, {}, ZONE), words)
        self.assertEqual(title_of(ALARM, {Parameter.TEMPERATURE: "°F"}), "Too hot: 84.4 °F")
        self.assertEqual(ALARM.sheet, "too_hot")

    def test_a_sensor_fault_says_what_is_not_watched(self) -> None:
        silent = replace(ALARM, kind=SensorFault.SILENT)
        self.assertEqual(title_of(silent, {}), "T1 is silent")
        self.assertIn("temperature is not watched meanwhile", words_of(silent, {}, ZONE))
        drift = replace(ALARM, kind=SensorFault.DRIFTING, worst=-0.6, value=25.0)
        self.assertIn("0.6 °C below the last tests", words_of(drift, {}, ZONE))
        self.assertEqual(drift.sheet, "")

    def test_a_message_keeps_its_key_when_it_is_sent_again(self) -> None:
        message = Message("Kit", Channel.WEBHOOK, Occasion.BEGAN, 0, NOON)
        letter = letter_of(ALARM, message, "Beacon", "http://here/alarms", {}, ZONE)
        self.assertEqual((letter.key, letter.title), ("alarm-7-began-0", "Beacon: Too hot: 29.1 °C"))
        self.assertIn("http://here/alarms", letter.words)
        self.assertEqual(letter.facts["kind"], "high")
        again = letter_of(ALARM, replace(message, round=2), "Beacon", "", {}, ZONE)
        self.assertTrue(again.title.startswith("Still: "))
        over = replace(ALARM, over=at(45), ended=Ended.BACK)
        self.assertEqual(
            words_of(over, {}, ZONE),
            "Temperature by T1 was above 28.0 °C from 11:30 until 12:45 on Tue 24 Nov.",
        )
        night = replace(over, signal="leak", began=at(-800))
        self.assertEqual(
            words_of(night, {}, ZONE), "The leak sensor (T1) was on from 22:40 on Mon 23 Nov until 12:45 on Tue 24 Nov."
        )
        self.assertEqual(over_words(over, ZONE), "")
        self.assertIn("corrected", over_words(replace(over, ended=Ended.CORRECTED), ZONE))
        ended = letter_of(over, replace(message, occasion=Occasion.OVER), "Beacon", "", {}, ZONE)
        self.assertTrue(ended.title.startswith("Over: Beacon"))

    def test_what_presses_is_not_said_twice(self) -> None:
        found = pressing_in([], [ALARM, replace(ALARM, sensor=BY_HAND)], {}, ZONE)
        self.assertEqual([one.title for one in found], ["Alarm: Too hot: 29.1 °C"])
        self.assertTrue(found[0].urgent)
        self.assertFalse(pressing_in([], [replace(ALARM, seen=NOON)], {}, ZONE)[0].urgent)


class Report(unittest.TestCase):
    def row(self, **changed: object) -> dict[str, object]:
        return {"sensor": "T1", "signal": "temperature", "value": 25.0, **changed}

    def test_what_can_be_taken_counts_beside_what_cannot(self) -> None:
        report = {
            "readings": [
                self.row(),
                self.row(value=-127),
                self.row(value="25"),
                self.row(signal="leak"),
                self.row(sensor=" "),
                self.row(at="2026-11-24T12:06:00Z"),
                self.row(at="2026-11-24 12:00"),
                self.row(value=89.6, unit="°F"),
                self.row(unit="furlong"),
                7,
            ],
            "contacts": [
                {"sensor": "floor", "signal": "leak", "on": True, "at": "2026-11-24T13:00:00+01:00"},
                {"sensor": "floor", "signal": "leak", "on": 1},
            ],
        }
        heard, wrong = heard_of(report, NOON)
        self.assertEqual(
            [(one.signal, round(one.sample.value, 6), one.sample.at) for one in heard],
            [("temperature", 25.0, NOON), ("temperature", 32.0, NOON), ("leak", 1.0, NOON)],
        )
        self.assertEqual(
            [one.field for one in wrong],
            [
                "readings.1.value", "readings.2.value", "readings.3.signal", "readings.4.sensor", "readings.5.at",
                "readings.6.at", "readings.8", "readings.9", "contacts.1.on",
            ],
        )  # fmt: skip
        self.assertTrue(all(getattr(one, "accepted", "") for one in wrong))

    def test_what_is_no_report_is_refused_as_a_whole(self) -> None:
        for said in ([], "text", None, 3):
            heard, wrong = heard_of(said, NOON)
            self.assertEqual((heard, len(wrong)), ([], 1))
        heard, wrong = heard_of({"readings": "all", "contacts": None}, NOON)
        self.assertEqual((heard, [one.field for one in wrong]), ([], ["readings"]))

    def test_every_kind_of_signal_is_named_in_its_refusal(self) -> None:
        _, wrong = heard_of({"contacts": [{"sensor": "x", "signal": "nothing", "on": True}]}, NOON)
        for key, signal in signals().items():
            self.assertEqual(key in getattr(wrong[0], "accepted", ""), signal.contact)


if __name__ == "__main__":
    unittest.main()
