"""A controller that stands in for a real one: a small tank whose heater, probes and floats can fail, told as plain JSON
over HTTP. `GET /` answers what its sensors say; `POST /fault` with `{"fault": "heater_on"}` breaks something, an empty
one mends everything; `POST /pass` with `{"minutes": 60}` lets time pass.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from random import Random
from threading import Lock
from typing import Any

HEAT_J_L_K = 4085.0
FAULTS = (
    "heater_on", "heater_off", "silent", "stuck", "out_of_water", "drifting", "leak", "sump_low", "sump_high",
    "mains_off", "flow_stopped",
)  # fmt: skip
CONTACTS = ("leak", "sump_low", "sump_high", "mains_off", "flow_stopped")
STEP_S = 20.0
MAX_MINUTES = 100_000.0


@dataclass
class Device:
    """A tank and what is measured of it. Powers in W, temperatures in °C, loss_w_k: heat lost for each degree above the
    room · drift_c: how far a drifting probe has gone."""

    litres: float = 300.0
    room_c: float = 21.0
    heater_w: float = 300.0
    pumps_w: float = 60.0
    loss_w_k: float = 30.0
    holds_c: float = 25.0
    water_c: float = 25.0
    ph: float = 8.15
    fault: str = ""
    drift_c: float = 0.0
    heating: bool = False
    shown: dict[str, float] = field(default_factory=dict)
    chance: Random = field(default_factory=lambda: Random(7))

    def passes(self, seconds: float) -> None:
        """Let time pass."""
        while seconds > 0:
            step = min(STEP_S, seconds)
            self._step(step)
            seconds -= step

    def _step(self, seconds: float) -> None:
        powered = self.fault != "mains_off"
        if self.water_c < self.holds_c - 0.1:
            self.heating = True
        elif self.water_c > self.holds_c + 0.1:
            self.heating = False
        on = self.fault == "heater_on" or (self.heating and self.fault != "heater_off")
        gained = powered * (self.pumps_w + on * self.heater_w) - self.loss_w_k * (self.water_c - self.room_c)
        self.water_c += gained * seconds / (HEAT_J_L_K * self.litres)
        self.drift_c += (self.fault == "drifting") * 0.3 * seconds / 86400

    def says(self) -> dict[str, Any]:
        """What its sensors say now."""
        readings = [
            {"sensor": "T1", "signal": "temperature", "value": self._temperature(), "unit": "°C"},
            {"sensor": "P1", "signal": "ph", "value": round(self.chance.gauss(self.ph, 0.005), 2)},
        ]
        if self.fault == "silent":
            readings = readings[1:]
        contacts = [{"sensor": f"input {key}", "signal": key, "on": self.fault == key} for key in CONTACTS]
        return {"controller": "stand-in", "readings": readings, "contacts": contacts}

    def _temperature(self) -> float:
        if self.fault == "stuck":
            return self.shown.setdefault("T1", self.water_c)
        true_c = self.room_c if self.fault == "out_of_water" else self.water_c + self.drift_c
        self.shown["T1"] = round(self.chance.gauss(true_c, 0.03), 2)
        return self.shown["T1"]

    def breaks(self, fault: str) -> None:
        """Break something; an empty fault mends everything. Raises ValueError."""
        if fault and fault not in FAULTS:
            raise ValueError(f"“{fault}” is not a fault: {', '.join(FAULTS)}")
        self.fault = fault
        self.drift_c *= fault == "drifting"


class _Answers(BaseHTTPRequestHandler):
    """What is asked of the device that its server holds."""

    server: _DeviceServer

    def do_GET(self) -> None:
        self.answer(200, self.server.does(lambda device: None))

    def do_POST(self) -> None:
        try:
            asked = json.loads(self.rfile.read(int(self.headers.get("Content-Length") or 0)) or b"{}")
            if self.path == "/fault":
                said = self.server.does(lambda device: device.breaks(str(asked.get("fault", ""))))
            else:
                minutes = min(float(asked.get("minutes", 0)), MAX_MINUTES)
                said = self.server.does(lambda device: device.passes(60 * minutes))
            self.answer(200, said)
        except (ValueError, TypeError, AttributeError) as error:
            self.answer(422, {"error": str(error)})

    def answer(self, status: int, said: dict[str, Any]) -> None:
        """Answer with JSON."""
        body = json.dumps(said, ensure_ascii=False).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_: object) -> None:
        """Nothing is logged: it is asked every minute."""


class _DeviceServer(ThreadingHTTPServer):
    """Holds a device, one question at a time; between two of them its time passes by a clock."""

    def __init__(self, device: Device, seconds: Callable[[], float], address: tuple[str, int]) -> None:
        super().__init__(address, _Answers)
        self.device, self.seconds, self.lock, self.last = device, seconds, Lock(), seconds()

    def does(self, act: Callable[[Device], None]) -> dict[str, Any]:
        """Let the device do something, and say what its sensors say then."""
        with self.lock:
            now = self.seconds()
            self.device.passes(max(0.0, now - self.last))
            self.last = now
            act(self.device)
            return self.device.says()


def controller_server(
    device: Device, port: int, seconds: Callable[[], float], host: str = "127.0.0.1"
) -> ThreadingHTTPServer:
    """A server that answers for a device. seconds: a clock, by which its time passes between two questions."""
    return _DeviceServer(device, seconds, (host, port))
