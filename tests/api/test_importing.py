"""Readings in and out: mapping, duplicates, bad rows, hostile files; whole or not at all, and taken back as one."""

import csv
import io
import time
from datetime import timedelta
from itertools import count
from typing import Any

from salttide.app import make_app
from salttide.clock import PinnedClock
from tests.api.base import BEACON, NOW, SKIFF, ApiTest

_keys = count(1)
OWN = "at,system,parameter,value,unit,instrument,scatter,note\r\n"


class ImportTest(ApiTest):
    def bring(self, content: str | bytes, name: str = "readings.csv", status: int = 201) -> dict:
        body = content.encode() if isinstance(content, str) else content
        key = f"import-test-{next(_keys):05d}"
        answer = self.api.post(f"/api/imports?name={name}", content=body, headers={"Idempotency-Key": key})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def check(self, brought: dict, **changes: object) -> dict:
        body = {**brought["mapping"], **changes}
        return self.post(f"/imports/{brought['id']}/check", body)

    def through(self, content: str | bytes, **changes: object) -> dict:
        """Bring, check and keep."""
        checked = self.check(self.bring(content), **changes)
        return self.post(f"/imports/{checked['id']}/save", {})

    def count(self) -> int:
        return self.rows("SELECT count(*) FROM effective WHERE kind = 'reading'")[0][0]


class In(ImportTest):
    def test_our_own_columns_need_no_mapping(self):
        before = self.count()
        kept = self.through(
            OWN + "2026-11-20T18:00:00Z,Beacon,alkalinity,8.1,dKH,titration kit T1,0.1,after feeding\r\n"
        )
        self.assertEqual((kept["state"], kept["good"], kept["bad"]), ("done", 1, 0))
        self.assertEqual(self.count(), before + 1)
        value, sd, note = self.rows(
            "SELECT value, sd, note FROM reading JOIN entry ON entry.id = entry_id ORDER BY entry_id DESC LIMIT 1"
        )[0]
        self.assertAlmostEqual(value, 8.1 / 2.80385)
        self.assertAlmostEqual(sd, 0.1 / 2.80385)
        self.assertEqual(note, "after feeding")

    def test_any_table_by_mapping_its_columns_once(self):
        table = "Date;Time;KH (dKH);Ca;NO3;remark\n24.10.2026;18:30;8,1;412;5,2;x\n25.10.2026;07:15;8,0;;4,9;\n"
        brought = self.bring(table)
        columns = brought["mapping"]["columns"]
        self.assertEqual(columns["Date"], "date")
        self.assertEqual(columns["Ca"], "calcium")
        columns |= {"KH (dKH)": "alkalinity", "NO3": "nitrate", "remark": "note"}
        checked = self.check(
            brought,
            columns=columns,
            units={"KH (dKH)": "dKH"},
            dates="dmy",
            decimal=",",
            system="Beacon",
            keep_as="my sheet",
        )
        # Two rows of three and two values; the winter time of 25 October counts from 3 in the morning.
        self.assertEqual((checked["state"], checked["good"], checked["bad"]), ("checked", 5, 0))
        self.assertIn(
            {"when": "24 Oct 2026 18:30", "system": "1", "what": "Calcium 412 mg/L", "instrument": "imported"},
            checked["first_rows"],
        )
        self.post(f"/imports/{checked['id']}/save", {})
        again = self.bring(table)
        self.assertIn("my sheet", again["fitting"])
        told = self.check(again, **again["fitting"]["my sheet"])
        self.assertEqual((told["good"], told["twice"]), (0, 5))

    def test_duplicates_within_the_file_and_of_the_ledger_are_recognised(self):
        line = "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"
        kept = self.through(OWN + line + line)
        self.assertEqual((kept["good"], kept["twice"]), (1, 1))
        self.assertEqual(self.through(OWN + line)["twice"], 1)

    def test_one_corrected_in_the_log_does_not_come_back(self):
        line = "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"
        self.through(OWN + line)
        entry = self.rows("SELECT max(entry_id) FROM reading")[0][0]
        self.post(f"/record/readings/{entry}/correct", {"text": "423"})
        self.assertEqual(self.through(OWN + line)["good"], 0)

    def test_bad_rows_are_listed_with_line_and_reason_and_the_good_ones_offered(self):
        rows = (
            "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,",
            "2026-11-20T18:00:00Z,Bacon,calcium,413,mg/L,kit,,",
            "yesterday,Beacon,calcium,413,mg/L,kit,,",
            "2026-11-20T18:00:00Z,Beacon,calzium,413,mg/L,kit,,",
            "2026-11-20T18:00:00Z,Beacon,calcium,41300,mg/L,kit,,",
            "2026-11-20T18:00:00Z,Beacon,calcium,413,dKH,kit,,",
            "2026-11-20T18:00:00Z,Beacon,calcium,,mg/L,kit,,",
            "2026-12-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,",
            "2026-11-20T18:00:00Z,Beacon,calcium,413",
            "1915-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,",
            '2026-11-20T18:00:00Z,Beacon,salinity,"1,025",ppt,kit,,',
            "2026-11-20T18:00:00Z,Beacon,nitrate,<0.5,mg/L,kit,,",
        )
        checked = self.check(self.bring(OWN + "\r\n".join(rows)))
        self.assertEqual((checked["good"], checked["bad"]), (2, 10))
        reasons = {bad["line"]: bad["reason"] for bad in checked["bad_rows"]}
        for line, words in (
            (3, "no system “Bacon” (there are Beacon, Eelgrass"), (4, "not a moment such as 2026-11-24"),
            (5, "not a parameter"), (6, "calcium 41300 is not possible: 0 to 1000 mg/L"), (7, "not a unit of calcium"),
            (8, "not a number"), (9, "in the future"), (10, "4 cells, but 8 columns"), (11, "before 1980"),
            (12, "can be read two ways"),
        ):  # fmt: skip
            with self.subTest(line=line):
                self.assertIn(words, reasons.get(line, ""))
        self.post(f"/imports/{checked['id']}/save", {})
        note, number = self.rows("SELECT note, id FROM entry ORDER BY id DESC LIMIT 1")[0]
        self.assertEqual(note, "reported as <0.5")
        # Anywhere between nothing and 0.5 mg/L: half of it.
        self.assertEqual(self.rows("SELECT value FROM reading WHERE entry_id = ?", number)[0][0], 0.25)

    def test_a_laboratorys_report_as_json(self):
        report = b'{"laboratory": "made up", "results": [{"element": "K", "result": 395, "unit": "mg/L",'
        report += b' "day": "2026-11-18"},'
        report += b'{"element": "I", "result": "0,055", "unit": "mg/L", "day": "2026-11-18"}]}'
        brought = self.bring(report, "report.json")
        columns = {"element": "parameter", "result": "value", "unit": "unit", "day": "date"}
        kept = self.post(f"/imports/{brought['id']}/check", {"columns": columns, "system": "Beacon", "decimal": ","})
        self.assertEqual((kept["good"], kept["bad"]), (2, 0), kept["bad_rows"])

    def test_a_mapping_that_cannot_work_is_refused_at_its_field(self):
        brought = self.bring("a,b,c\n1,2,3\n")
        path = f"/imports/{brought['id']}/check"
        for body, field in (
            ({"columns": {"a": "value"}}, "columns"),
            ({"columns": {"a": "date", "x": "value"}}, "columns"),
            ({"columns": {"a": "date", "b": "value", "c": "value"}}, "columns"),
            ({"columns": {"a": "date", "b": "magic"}}, "columns"),
            ({"columns": {"a": "date", "b": "value"}, "system": "Beacon"}, "parameter"),
            ({"columns": {"a": "date", "b": "calcium"}}, "system"),
            ({"columns": {"a": "date", "b": "calcium"}, "system": "Beacon", "dates": "ymd"}, "dates"),
        ):
            with self.subTest(body=body):
                self.assertTrue(self.refused(path, body, field)["accepted"])

    def test_taken_back_as_one_and_brought_back(self):
        before = self.count()
        kept = self.through(OWN + "2026-11-24T17:39:00Z,Beacon,calcium,777,mg/L,kit,,\r\n")
        present = {p["parameter"]: p["text"] for p in self.get("/harbour")["systems"][0]["parameters"]}
        self.assertEqual(present["calcium"], "777")
        self.post(f"/imports/{kept['id']}/undo", {})
        self.assertEqual(self.count(), before)
        present = {p["parameter"]: p["text"] for p in self.get("/harbour")["systems"][0]["parameters"]}
        self.assertNotEqual(present["calcium"], "777")
        self.post(f"/imports/{kept['id']}/redo", {})
        self.assertEqual(self.count(), before + 1)
        self.assertEqual(self.send(f"/imports/{kept['id']}/redo", {}).status_code, 409)

    def test_one_row_of_a_file_is_taken_back_alone(self):
        before = self.count()
        lines = "".join(f"2026-11-20T1{i}:00:00Z,Beacon,calcium,41{i},mg/L,kit,,\r\n" for i in range(3))
        kept = self.through(OWN + lines)
        row = next(row for row in self.get("/log?parameter=calcium")["rows"] if row["words"] == "Calcium 411 mg/L")
        self.assertEqual(row["command"], kept["id"])
        self.post(f"/record/entries/{row['id']}/undo", {})
        self.assertEqual(self.count(), before + 2)
        self.assertEqual(self.send(f"/record/entries/{row['id']}/undo", {}).status_code, 404)

    def test_brought_twice_under_one_key_it_is_there_once_and_no_file_is_left_over(self):
        folder = self.path.parent / "imports"
        key = {"Idempotency-Key": "the-same-file"}
        body = OWN + "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"
        ids = [self.api.post("/api/imports?name=a.csv", content=body, headers=key).json()["id"] for _ in range(2)]
        self.assertEqual(len(set(ids)), 1)
        self.assertEqual(len(list(folder.iterdir())), 1)
        self.bring(b"no table", status=422)
        self.assertEqual(len(list(folder.iterdir())), 1)
        self.check(self.get(f"/imports/{ids[0]}"))
        self.post(f"/imports/{ids[0]}/save", {})
        self.assertEqual(list(folder.iterdir()), [])

    def test_nothing_counts_before_the_last_row_is_read(self):
        before = self.count()
        checked = self.check(self.bring(OWN + "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"))
        self.assertEqual(self.count(), before)
        with self.app.state.database.write() as connection:
            connection.execute("UPDATE import SET state = 'keeping'")
            connection.execute(
                "INSERT INTO entry (system_id, kind, at, recorded_at, command)"
                " VALUES (1, 'reading', '2026-11-20T18:00:00Z', '2026-11-24T18:00:00Z', ?)", (checked["id"],)
            )  # fmt: skip
        self.assertEqual(self.count(), before)
        self.post(f"/imports/{checked['id']}/stop", {})
        self.assertEqual(self.count(), before)

    def test_what_was_being_read_when_the_program_ended_counts_for_nothing_and_can_be_read_again(self):
        before = self.count()
        checked = self.check(self.bring(OWN + "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"))
        with self.app.state.database.write() as connection:
            connection.execute("UPDATE import SET state = 'keeping'")
        make_app(self.path, PinnedClock(NOW), build=None).state.database.close()
        left = self.get(f"/imports/{checked['id']}")
        self.assertEqual(
            (left["state"], left["said"]), ("stopped", "the program ended meanwhile; nothing of it counts")
        )
        self.assertEqual(self.count(), before)
        again = self.check(left)
        self.assertEqual(self.post(f"/imports/{again['id']}/save", {})["state"], "done")
        self.assertEqual(self.count(), before + 1)

    def test_a_large_file_is_read_by_a_process_of_its_own_and_can_be_stopped(self):
        rows = "".join(
            f"2025-{1 + i // 2000 % 12:02d}-{1 + i // 70 % 28:02d}T{i % 24:02d}:{i % 60:02d}:00Z,Beacon,calcium,"
            f"{400 + i % 50},mg/L,kit {i},,\r\n"
            for i in range(12_000)
        )
        brought = self.bring(OWN + rows)
        self.check(brought)
        self.assertEqual(self.wait(brought["id"], "checked")["good"], 12_000)
        self.post(f"/imports/{brought['id']}/save", {})
        self.assertEqual(self.wait(brought["id"], "done")["share"], 1.0)
        again = self.bring(OWN + rows)
        self.check(again)
        self.post(f"/imports/{again['id']}/stop", {})
        self.assertEqual(self.get(f"/imports/{again['id']}")["state"], "stopped")

    def wait(self, command: str, state: str) -> dict:
        for _ in range(300):
            shown = self.get(f"/imports/{command}")
            if shown["state"] not in ("checking", "keeping"):
                break
            time.sleep(0.1)
        self.assertEqual(shown["state"], state, shown["said"])
        return shown


class Hostile(ImportTest):
    def test_files_that_are_no_tables(self):
        for content in (
            b"", b"   \n\n", b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR" + bytes(200), b"PK\x03\x04" + bytes(500), b"one\n1\n2\n",
            b"[1, 2, 3]", b"{not json", b'{"a": {"b": 1}}', b"[" * 100_000, b"x" * 200_000,
        ):  # fmt: skip
            with self.subTest(content=content[:12]):
                answer = self.bring(content, status=422)
                self.assertEqual(answer["fields"][0]["field"], "file")

    def test_other_encodings_are_read(self):
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
            text = OWN + "2026-11-20T18:00:00Z,Beacon,temperature,25.4,°C,kit,,après\r\n"
            with self.subTest(encoding=encoding):
                checked = self.check(self.bring(text.encode(encoding)))
                self.assertEqual((checked["good"], checked["bad"]), (1, 0), checked["bad_rows"])

    def test_a_line_of_ten_megabytes_is_one_bad_row_and_a_stray_quote_does_not_swallow_the_rest(self):
        good = "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n"
        checked = self.check(self.bring(OWN + good + "x" * 10_000_000 + "\r\n" + good.replace("413", "414")))
        if checked["state"] == "checking":
            checked = In.wait(self, checked["id"], "checked")
        self.assertEqual(checked["good"], 2)
        self.assertIn("longer than", checked["bad_rows"][0]["reason"])

    def test_tricks_in_the_name_touch_no_other_file(self):
        for name in ("..%2F..%2Fetc%2Fpasswd", "C:%5CWindows%5Cx.csv", "%00", "a" * 190):
            with self.subTest(name=name):
                brought = self.bring(OWN + "2026-11-20T18:00:00Z,Beacon,calcium,413,mg/L,kit,,\r\n", name)
                self.assertNotIn("/", brought["name"])
                path = self.rows("SELECT path FROM import WHERE command = ?", brought["id"])[0][0]
                self.assertIn(str(self.path.parent / "imports"), path)


class Out(ImportTest):
    def export(self, query: str = "") -> list[dict]:
        answer = self.api.get(f"/api/readings.csv{query}")
        self.assertEqual(answer.status_code, 200)
        return list(csv.DictReader(io.StringIO(answer.text)))

    def test_what_goes_out_comes_in_again_as_nothing_new(self):
        text = self.api.get(f"/api/readings.csv?system_id={BEACON}&parameter=alkalinity&first=2026-11-01").text
        checked = self.check(self.bring(text))
        self.assertGreater(checked["twice"], 5)
        self.assertEqual((checked["good"], checked["bad"]), (0, 0))

    def test_the_filter_holds_and_values_are_in_the_keepers_unit(self):
        rows = self.export(f"?system_id={BEACON}&parameter=alkalinity&first=2026-11-20&last=2026-11-20")
        self.assertEqual({row["at"][:10] for row in rows}, {"2026-11-20"})
        self.assertEqual(({row["parameter"] for row in rows}, {row["unit"] for row in rows}), ({"alkalinity"}, {"dKH"}))

    def test_a_note_that_a_spreadsheet_would_run_goes_out_as_text(self):
        row = {"parameter": "calcium", "text": "413", "note": '=HYPERLINK("http://x")'}
        self.post(f"/systems/{BEACON}/bench", {"rows": [row]})
        self.assertEqual(self.export("?parameter=calcium&first=2026-11-24")[-1]["note"], '\'=HYPERLINK("http://x")')


class TheLog(ApiTest):
    def test_pages_go_on_where_the_last_one_ended(self):
        first = self.get("/log?limit=30")
        second = self.get(f"/log?limit=30&before={first['more']}")
        ids = [row["id"] for row in first["rows"] + second["rows"]]
        self.assertEqual(len(set(ids)), 60)
        self.assertEqual(len({row["system"] for row in first["rows"]}), 4)

    def test_by_kind_system_parameter_and_day(self):
        looks = self.get("/log?kind=look&system_id=2")["rows"]
        self.assertEqual({(row["kind"], row["system"]) for row in looks}, {("look", "Eelgrass")})
        calcium = self.get("/log?parameter=calcium&last=2026-06-30")["rows"]
        self.assertTrue(all("Calcium" in row["words"] for row in calcium))
        self.assertEqual(self.get("/log?first=2030-01-01")["rows"], [])


class Probes(ApiTest):
    """Very many readings close together are kept as a probe's, and count and are taken back with their import."""

    COUNT = 2400

    def file(self, value: str = "8.{i}") -> bytes:
        first = NOW - timedelta(minutes=5 * self.COUNT)
        rows = ["at,system,parameter,value,unit,instrument,scatter,note"]
        for i in range(self.COUNT):
            at = (first + timedelta(minutes=5 * i)).strftime("%Y-%m-%dT%H:%M:%SZ")
            rows.append(f"{at},Skiff,ph,{value.format(i=1 + i % 3)},,probe P7,,")
        rows.append(f"{first.strftime('%Y-%m-%dT%H:%M:%SZ')},Skiff,alkalinity,7.9,dKH,titration kit T1,,")
        return "\r\n".join(rows).encode()

    def brought(self, key: str, content: bytes) -> Any:
        answer = self.api.post("/api/imports?name=probe.csv", content=content, headers={"Idempotency-Key": key})
        item = answer.json()
        return self.post(f"/imports/{item['id']}/check", item["mapping"])

    def counts(self) -> tuple[int, int]:
        """Readings of the probe that are rolled up, and entries of the ledger for it."""
        rolled = self.rows(
            "SELECT coalesce(sum(count), 0) FROM probe_roll JOIN probe_series ON id = series_id"
            " WHERE instrument = 'probe P7' AND span_s = 86400"
        )[0][0]
        entries = self.rows("SELECT count(*) FROM reading WHERE instrument = 'probe P7'")[0][0]
        return rolled, entries

    def test_they_count_with_their_import_and_are_taken_back_and_put_back_with_it(self):
        item = self.brought("probe-import-1", self.file())
        self.assertEqual(item["probes"], ["probe P7, pH"])
        self.assertEqual(self.counts(), (0, 0))
        self.post(f"/imports/{item['id']}/save", {})
        self.assertEqual(self.counts(), (self.COUNT, 0))
        self.assertEqual(
            self.rows("SELECT count(*) FROM reading WHERE value BETWEEN 2.8 AND 2.83 AND sd > 0")[0][0] > 0, True
        )
        strip = next(s for s in self.get(f"/systems/{SKIFF}/sheet")["strips"] if s["parameter"] == "ph")
        # The mean of the hour that began at 17:00: 8.2, 8.3 and twice 8.1, 8.2, 8.3: 65.7 / 8.
        self.assertEqual(strip["present"]["text"], "8.21")
        self.post(f"/imports/{item['id']}/undo", {})
        self.assertEqual(self.counts(), (0, 0))
        self.post(f"/imports/{item['id']}/redo", {})
        self.assertEqual(self.counts(), (self.COUNT, 0))

    def test_the_same_file_again_brings_nothing_new(self):
        item = self.brought("probe-import-1", self.file())
        self.post(f"/imports/{item['id']}/save", {})
        again = self.brought("probe-import-2", self.file())
        self.assertEqual((again["good"], again["twice"]), (0, self.COUNT + 1))

    def test_what_probes_wrote_goes_out_with_the_readings(self):
        item = self.brought("probe-import-1", self.file())
        self.post(f"/imports/{item['id']}/save", {})
        text = self.api.get(f"/api/readings.csv?system_id={SKIFF}&parameter=ph").text
        self.assertEqual(sum("probe P7" in line for line in text.splitlines()), self.COUNT)
