"""What pages cost against an empty request: just after something was recorded, asked again, and by their ETag."""

from __future__ import annotations

import http.client
import json
import statistics
import time
from dataclasses import dataclass
from urllib.parse import urlparse

from tests.stage import Server

PAGES = {
    "Harbour": ("/api/harbour", 41), "Next": ("/api/next", 33), "Bench": ("/api/systems/1/bench", 23),
    "Sheet": ("/api/systems/1/sheet", 43), "Judgement": ("/api/systems/1/judgement", 27),
    "Change": ("/api/systems/1/change", 28), "Mix": ("/api/mix", 49), "Rota": ("/api/rota", 69),
    "Round": ("/api/rota/round", 67), "Year": ("/api/rota/year", 100), "Dosing": ("/api/systems/1/dosing", 88),
    "calendar": ("/api/rota/calendar.ics", 218),
}  # fmt: skip
"""Pages, and how many empty requests each cost before anything was remembered: the bar for the first time."""
AGAIN_BAR, SAME_BAR = 6.0, 2.0


@dataclass(frozen=True)
class Cost:
    """Seconds: an empty request, a page after something was recorded, the same again, and by its ETag."""

    empty: float
    first: float
    again: float
    same: float


class Asker:
    """One kept connection."""

    def __init__(self, server: Server) -> None:
        address = urlparse(server.url)
        self.connection = http.client.HTTPConnection(address.hostname or "", address.port)
        self.count = 0

    def ask(self, path: str, tag: str = "") -> tuple[float, str]:
        """Seconds of a page, and its ETag."""
        begun = time.perf_counter()
        self.connection.request("GET", path, headers={"If-None-Match": tag} if tag else {})
        answer = self.connection.getresponse()
        answer.read()
        seconds = time.perf_counter() - begun
        assert answer.status == (304 if tag else 200), (path, answer.status)
        return seconds, answer.getheader("ETag") or ""

    def record(self) -> None:
        """Record something, so that nothing that was remembered holds."""
        self.count += 1
        body = json.dumps({"signs": [], "note": f"look {self.count}"})
        headers = {"Content-Type": "application/json", "Idempotency-Key": f"page-costs-{self.count:06d}"}
        self.connection.request("POST", "/api/systems/1/inspection/checks", body, headers)
        answer = self.connection.getresponse()
        text = answer.read()
        assert answer.status == 201, text


def costs(server: Server, rounds: int = 9) -> dict[str, Cost]:
    """The cost of each page: the median of so many rounds, all on one connection in turn."""
    asker = Asker(server)
    found = {}
    for name, (path, _) in PAGES.items():
        asker.ask(path)
        times = [_round(asker, path) for _ in range(rounds)]
        found[name] = Cost(*(statistics.median(column) for column in zip(*times, strict=True)))
    asker.connection.close()
    return found


def _round(asker: Asker, path: str) -> tuple[float, float, float, float]:
    asker.record()
    empty = statistics.median(asker.ask("/api/health")[0] for _ in range(5))
    first, tag = asker.ask(path)
    again = statistics.median(asker.ask(path)[0] for _ in range(3))
    same = statistics.median(asker.ask(path, tag)[0] for _ in range(3))
    return empty, first, again, same
