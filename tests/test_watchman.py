"""The watchman from end to end: a simulated controller whose parts fail, a web address and a mail server that alarms go
to, each a real server on this machine; the clock is moved by hand.
"""

from __future__ import annotations

import json
import shutil
import socket
import tempfile
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from random import Random
from threading import Thread
from typing import Any

from aiosmtpd.controller import Controller as MailServer
from aiosmtpd.smtp import Envelope

from salttide.core.alarm.alarm import Alarm
from salttide.core.alarm.signals import AlarmLimit
from salttide.core.alarm.telling import AlarmSetup, Contact, MailSecurity
from salttide.fishroom.controller import FAULTS, Device, controller_server
from salttide.store import alarm as alarm_store
from salttide.store.alarm import Controller
from salttide.watchman import Watchman
from tests.api.base import BEACON, NOW, warmed
from tests.stage import app_on, begin_as, demo_database


class HandClock:
    """A clock that stands until it is moved."""

    def __init__(self, at: datetime) -> None:
        self.at = at

    def now(self) -> datetime:
        return self.at

    def ticks(self) -> datetime:
        return self.at


@contextmanager
def serving(server: ThreadingHTTPServer) -> Iterator[str]:
    """A server while a block lasts; its address."""
    thread = Thread(target=server.serve_forever, kwargs={"poll_interval": 0.01}, daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.server_address[1]}/"
    finally:
        server.shutdown()
        server.server_close()
        thread.join()


class Inbox:
    """A web address that keeps what is posted to it. status: what it answers."""

    def __init__(self) -> None:
        self.got: list[dict[str, Any]] = []
        self.status = 204
        inbox = self

        class Handler(BaseHTTPRequestHandler):
            def do_POST(self) -> None:
                body = self.rfile.read(int(self.headers["Content-Length"]))
                if inbox.status < 300:
                    inbox.got.append(json.loads(body))
                self.send_response(inbox.status)
                self.send_header("Location", "/elsewhere")
                self.end_headers()

            def log_message(self, *_: object) -> None:
                pass

        self.server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)


class Post:
    """A mail server that keeps its mail."""

    def __init__(self) -> None:
        self.got: list[Envelope] = []

    async def handle_DATA(self, _server: object, _session: object, envelope: Envelope) -> str:  # noqa: N802
        self.got.append(envelope)
        return "250 taken"


def free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


class WatchmanTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="salttide-watch-"))
        self.addCleanup(shutil.rmtree, folder)
        shutil.copyfile(demo_database(), folder / "test.db")
        self.clock = HandClock(NOW)
        self.app = app_on(folder / "test.db", self.clock)
        self.addCleanup(self.app.state.database.close)
        begin_as(warmed(), self.app.state.memo)
        self.watchman = Watchman(self.app.state.memo, self.clock, links="http://tide.home")
        # Beacon holds 334 L; this one loses its heat as slowly, and its heaters could cook it.
        self.device = Device(litres=334.0, heater_w=600.0, chance=Random(3))
        server = controller_server(self.device, 0, lambda: self.clock.at.timestamp())
        self.url = self.enterContext(serving(server))
        self.inbox, self.mail = Inbox(), Post()
        self.hook = self.enterContext(serving(self.inbox.server))
        self.nobody()
        self.watch(AlarmLimit("temperature", 23.0, 27.5, 0.3, 10), AlarmLimit("leak", None, 0.5), self.mains())

    def mains(self) -> AlarmLimit:
        return AlarmLimit("mains_off", None, 0.5, hold_min=2)

    def nobody(self) -> None:
        """Nothing of the demo household is watched."""
        with self.app.state.database.write() as connection:
            connection.execute("DELETE FROM alarm_limit")
            connection.execute("DELETE FROM alarm_setup")
            connection.execute("DELETE FROM alarm_sensor")

    def watch(self, *limits: AlarmLimit) -> None:
        with self.app.state.database.write() as connection:
            alarm_store.save_limits(connection, BEACON, limits)
            alarm_store.save_controller(connection, Controller(BEACON, self.url))

    def tell(self, *contacts: Contact, **changed: Any) -> None:
        with self.app.state.database.write() as connection:
            alarm_store.save_setup(connection, AlarmSetup(contacts, **changed))

    def goes(self, minutes: float, step: float = 1.0) -> None:
        """Time goes on, minute by minute, and the watchman with it."""
        for _ in range(round(minutes / step)):
            self.clock.at += timedelta(minutes=step)
            self.watchman.round()

    def open(self) -> list[Alarm]:
        return alarm_store.open_alarms(self.app.state.database.connection)

    def kinds(self) -> set[tuple[str, str]]:
        return {(one.signal, one.kind) for one in self.open()}


class FromTankToPerson(WatchmanTest):
    def test_a_heater_that_sticks_is_told_escalated_and_told_when_over(self) -> None:
        port = free_port()
        server = MailServer(self.mail, hostname="127.0.0.1", port=port)
        server.start()
        self.addCleanup(server.stop)
        self.tell(
            Contact("Kit", 1, webhook=self.hook), Contact("next door", 2, email="door@home.test"),
            look_min=15, mail_host="127.0.0.1", mail_port=port, mail_security=MailSecurity.NONE,
            mail_from="tide@home.test",
        )  # fmt: skip
        self.goes(5)
        self.assertEqual((self.kinds(), self.inbox.got), (set(), []))
        self.device.breaks("heater_on")
        # 660 W less 30 W/K over 4 to 6.5 K warm 334 L of 4085 J by 1.42 to 1.22 °C an hour: 2.5 °C take about 1.9 h.
        self.goes(150)
        self.assertEqual(self.kinds(), {("temperature", "limit")})
        alarm = self.open()[0]
        hours = (alarm.began - NOW) / timedelta(hours=1)
        self.assertAlmostEqual(hours, 1.9 + 5 / 60, delta=0.15)
        self.assertEqual((alarm.raised - alarm.began), timedelta(minutes=10))
        told = self.inbox.got[0]
        self.assertEqual((told["id"], told["system"], told["kind"]), (f"alarm-{alarm.id}-began-0", "Beacon", "high"))
        self.assertIn("http://tide.home/alarms", told["words"])
        self.assertEqual([one.rcpt_tos for one in self.mail.got], [["door@home.test"]])
        content = self.mail.got[0].content
        self.assertIn(b"Subject: Beacon: Too hot", content if isinstance(content, bytes) else content.encode())
        # In a room of 10 °C 480 W leave it: 1.27 °C an hour, from about 27.9 to 27.2.
        self.device.breaks("heater_off")
        self.device.room_c = 10.0
        self.goes(70)
        self.device.breaks("")
        self.assertEqual(self.open(), [])
        self.assertEqual([one["occasion"] for one in self.inbox.got][-1], "over")
        # The second was told once more after an hour, and that it is over.
        self.assertEqual(len(self.mail.got), 3)
        # Nothing is told twice, however often the watchman looks.
        count = len(self.inbox.got)
        self.goes(120)
        self.assertEqual((len(self.inbox.got), len(self.mail.got)), (count, 3))

    def test_what_cannot_be_delivered_waits_and_arrives_once(self) -> None:
        self.tell(Contact("Kit", 1, webhook=self.hook), again_min=0)
        self.inbox.status = 503
        self.device.breaks("leak")
        self.goes(5)
        rows = alarm_store.messages(self.app.state.database.connection, self.open()[0].id)
        # Tried at 1, again after 1 and after 2 minutes: at 2 and 4.
        self.assertEqual([(row["tries"], row["fault"]) for row in rows], [(3, "it answered with status 503")])
        self.inbox.status = 302
        self.goes(5)
        self.assertEqual(self.inbox.got, [])
        self.inbox.status = 204
        self.goes(20)
        self.assertEqual([one["id"] for one in self.inbox.got], [f"alarm-{self.open()[0].id}-began-0"])

    def test_who_is_no_longer_told_is_not_tried_again(self) -> None:
        self.tell(Contact("Kit", 1, webhook=self.hook), again_min=0)
        self.inbox.status = 503
        self.device.breaks("leak")
        self.goes(1)
        self.tell(Contact("Kate", 1, webhook=self.hook), again_min=0)
        self.inbox.status = 204
        self.goes(30)
        rows = {row["contact"]: row for row in self.messages()}
        self.assertEqual((rows["Kit"]["next_at"], rows["Kit"]["fault"]), (None, "no longer told this way"))
        self.assertIsNotNone(rows["Kate"]["sent_at"])
        self.assertEqual(len(self.inbox.got), 1)

    def messages(self) -> list[Any]:
        return alarm_store.messages(self.app.state.database.connection, self.open()[0].id)

    def test_somebody_who_looked_stops_the_next_from_being_told(self) -> None:
        self.tell(Contact("Kit", 1, webhook=self.hook), Contact("Door", 2, webhook=self.hook + "2"), look_min=10)
        self.device.breaks("leak")
        self.goes(3)
        with self.app.state.database.write() as connection:
            alarm_store.see_alarm(connection, self.open()[0].id, self.clock.at, "Kit")
        self.goes(90)
        self.assertEqual(len(self.inbox.got), 1)


class SensorsThatFail(WatchmanTest):
    def test_each_fault_of_the_controller_is_the_alarm_it_should_be(self) -> None:
        expected = {
            "silent": {("temperature", "silent")},
            "out_of_water": {("temperature", "out_of_water"), ("temperature", "limit")},
            "leak": {("leak", "limit")},
            "mains_off": {("mains_off", "limit")},
        }
        for fault, wanted in expected.items():
            with self.subTest(fault=fault):
                self.device.breaks("")
                self.device.water_c = 25.0
                self.goes(10)
                self.device.breaks(fault)
                self.goes(25)
                self.assertEqual(self.kinds(), wanted)
                self.device.breaks("")
                self.goes(10)
                self.assertEqual(self.kinds(), set())

    def test_a_probe_that_stands_still_for_half_a_day_is_told(self) -> None:
        self.goes(14 * 60, step=5)
        self.assertEqual(self.kinds(), set())
        self.device.breaks("stuck")
        self.goes(13 * 60 + 30, step=5)
        self.assertEqual(self.kinds(), {("temperature", "stuck")})
        self.device.breaks("")
        self.goes(70)
        self.assertEqual(self.kinds(), set())

    def test_a_controller_that_does_not_answer_is_named_and_its_sensors_are_silent(self) -> None:
        self.goes(5)
        with self.app.state.database.write() as connection:
            alarm_store.save_controller(connection, Controller(BEACON, f"http://127.0.0.1:{free_port()}/"))
        self.goes(20)
        self.assertIn("did not answer", alarm_store.controller(self.app.state.database.connection, BEACON).fault)
        silent = {("temperature", "silent"), ("leak", "silent"), ("mains_off", "silent")}
        self.assertEqual(self.kinds(), silent)

    def test_one_bad_value_does_not_take_the_others_with_it(self) -> None:
        self.device.says = lambda: {  # type: ignore[method-assign]
            "readings": [{"sensor": "T1", "signal": "temperature", "value": 85.0}],
            "contacts": [{"sensor": "floor", "signal": "leak", "on": True}],
        }
        self.goes(2)
        self.assertEqual(self.kinds(), {("leak", "limit")})
        self.assertIn("readings.0.value", alarm_store.controller(self.app.state.database.connection, BEACON).fault)

    def test_a_watch_that_changes_nothing_writes_nothing(self) -> None:
        with self.app.state.database.write() as connection:
            alarm_store.save_controller(connection, Controller(BEACON))
        self.watchman.round()
        version = self.app.state.database.version()
        self.goes(3)
        self.assertEqual(self.app.state.database.version(), version)


class StandIn(unittest.TestCase):
    def test_it_settles_where_its_watts_and_its_losses_meet(self) -> None:
        device = Device(litres=300, room_c=20, heater_w=200, pumps_w=40, loss_w_k=30, fault="heater_on")
        device.passes(400 * 3600)
        # 240 W / 30 W/K = 8 °C above the room.
        self.assertAlmostEqual(device.water_c, 28.0, places=1)
        device.breaks("mains_off")
        device.passes(400 * 3600)
        self.assertAlmostEqual(device.water_c, 20.0, places=1)

    def test_it_holds_its_temperature_and_refuses_what_it_cannot_break(self) -> None:
        device = Device()
        device.passes(48 * 3600)
        self.assertAlmostEqual(device.water_c, 25.0, delta=0.25)
        with self.assertRaises(ValueError):
            device.breaks("nothing")
        self.assertIn("heater_on", FAULTS)

    def test_it_speaks_json_and_lets_time_pass(self) -> None:
        import urllib.error
        import urllib.request

        device = Device(fault="heater_on")
        with serving(controller_server(device, 0, lambda: 0.0)) as url:
            before = json.loads(urllib.request.urlopen(url).read())["readings"][0]["value"]
            body = json.dumps({"minutes": 120}).encode()
            after = json.loads(urllib.request.urlopen(f"{url}pass", body).read())["readings"][0]["value"]
            self.assertGreater(after, before + 0.5)
            with self.assertRaises(urllib.error.HTTPError) as caught:
                urllib.request.urlopen(f"{url}fault", b'{"fault": "x"}')
            self.assertIn("is not a fault", caught.exception.read().decode())
            caught.exception.close()


if __name__ == "__main__":
    unittest.main()
