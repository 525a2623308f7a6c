"""A keeper of gallons, inches, ounces and Fahrenheit: what is shown and typed, and that the same water is meant."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from tests.api.base import BEACON, ApiTest

METRIC = re.compile(r"\d\s?(L|cm|kg|mm|L/h|litres)\b(?!/)|\d\s?°C")
MEANT = (
    ".cautions.",  # say both
    "working",  # worked out in metric, with the keeper's unit beside it
    ".units.", ".presets.", ".unit",  # names of units to choose from
)  # fmt: skip


def said(answer: Any, place: str = "") -> Iterator[tuple[str, str]]:
    """Every text of an answer, with its field."""
    if isinstance(answer, dict):
        for name, value in answer.items():
            yield from said(value, f"{place}.{name}")
    elif isinstance(answer, list):
        for value in answer:
            yield from said(value, place)
    elif isinstance(answer, str):
        yield place, answer


class UsMeasures(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        self.prefer("us")

    def prefer(self, preset: str) -> dict[str, Any]:
        """Choose a preset, as Settings does."""
        now = self.get("/keeper")
        chosen = next(one for one in now["presets"] if one["key"] == preset)
        body = {name: value for name, value in chosen.items() if name not in ("key", "name")}
        answer = self.send("/keeper", {**body, "zone": now["zone"]}, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        return dict(answer.json())

    def figures(self, url: str, request: dict[str, Any]) -> dict[str, Any]:
        """Every figure of the first step of a planned change."""
        step = self.post(url, request)["steps"][0]
        return {one["key"]: one["value"] for one in (*step["figures"], *step["tank"])}

    def assert_no_metric(self, place: str, answer: Any) -> int:
        texts = [(field, text) for field, text in said(answer) if not any(part in f"{field}." for part in MEANT)]
        self.assertEqual([], [(place, field, text) for field, text in texts if METRIC.search(text)])
        return len(texts)

    def test_a_preset_sets_all_at_once_and_leaves_salinity_alone(self):
        now = self.get("/keeper")
        self.assertEqual((now["volume"], now["length"], now["mass"]), ("US gal", "in", "oz"))
        self.assertEqual((now["gallon"], now["clock"], now["days"], now["week"]), ("us", "12", "month_first", "sunday"))
        chosen = {row["parameter"]: row["chosen"] for row in now["units"]}
        self.assertEqual((chosen["temperature"], chosen["salinity"]), ("°F", "ppt"))
        back = self.prefer("uk")
        self.assertEqual((back["volume"], back["gallon"], back["clock"]), ("L", "imperial", "24"))

    def test_who_reads_gallons_means_them_when_typing_gal(self):
        body = {"zone": "Europe/London", "units": {}, "volume": "imp gal", "gallon": "us"}
        self.assertEqual(self.send("/keeper", body, method="PUT").json()["gallon"], "imperial")

    def test_no_page_says_litres_centimetres_kilograms_or_celsius(self):
        paths = [path for path, methods in self.app.openapi()["paths"].items() if "get" in methods]
        count = texts = 0
        for path in sorted(paths):
            for system in ("1", "2", "4") if "{system_id}" in path else ("1",):
                address = re.sub(r"\{\w+\}", "1", path.replace("{system_id}", system))
                answer = self.api.get(address)
                if answer.status_code == 200 and "json" in answer.headers["content-type"]:
                    count += 1
                    texts += self.assert_no_metric(path, answer.json())
        self.assertGreater(count, 60)
        self.assertGreater(texts, 3000)

    def test_a_planned_change_is_the_same_water(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        url = f"/systems/{BEACON}/change/preview"
        us = self.figures(url, request)
        self.prefer("metric")
        metric = self.figures(url, request)
        # 231 in³, 16 oz, 2.54 cm: exact by definition.
        self.assertEqual([us[key]["unit"] for key in ("volume", "mass", "mark")], ["gal", "lb", "in"])
        self.assertAlmostEqual(us["volume"]["value"] * 3.785411784, metric["volume"]["value"], places=9)
        self.assertAlmostEqual(us["mass"]["value"] * 0.45359237, metric["mass"]["value"], places=9)
        self.assertAlmostEqual(us["mark"]["value"] * 2.54, metric["mark"]["value"], places=9)

    def test_the_working_is_metric_with_gallons_beside(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        step = self.post(f"/systems/{BEACON}/change/preview", request)["steps"][0]
        volume = next(figure for figure in step["figures"] if figure["key"] == "volume")["working"][0]
        litres = float(volume["value"])
        self.assertEqual(volume["unit"], f"L ({litres / 3.785411784:.3f} gal)")

    def test_gallons_told_are_kept_as_litres(self):
        self.post("/jot/record", {"text": "did a 10 gal water change", "system_id": BEACON})
        rows = self.get(f"/systems/{BEACON}/record")
        row = next(one for one in rows if one["words"] == "Water change" and "out" in one["detail"])
        self.assertTrue(row["detail"].startswith("10.00 gal out, 10.00 gal in"), row["detail"])
        with self.app.state.database.connection as connection:
            out = connection.execute("SELECT out_l FROM change ORDER BY entry_id DESC LIMIT 1").fetchone()[0]
        self.assertAlmostEqual(out, 37.85411784, places=6)

    def test_a_bare_number_in_a_field_stays_what_the_field_is_kept_in(self):
        # The page adds its unit; a program that sends plain numbers means what the field's name says.
        request = self.get(f"/systems/{BEACON}/change")["request"]
        url = f"/systems/{BEACON}/change/preview"
        plain, typed = (self.post(url, {**request, "keep_l": value})["steps"][0] for value in (3.785411784, "1 gal"))
        self.assertEqual(plain, typed)

    def test_refusals_are_in_gallons(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        wrong = self.refused(f"/systems/{BEACON}/change/preview", {**request, "keep_l": "900 gal"}, "keep_l")
        self.assertRegex(wrong["accepted"], r"^0 to [\d.]+ gal$")

    def test_files_stay_metric_and_name_their_units(self):
        text = self.api.get("/api/log/readings.csv").text
        self.assertNotIn(" gal", text.splitlines()[0])
