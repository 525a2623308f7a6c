"""Tables in and out: what any bytes come to, what columns mean, moments and numbers as they are written."""

import tempfile
import unittest
from datetime import UTC, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.basics.number_text import DecimalSign
from salttide.core.science.parameters import Parameter
from salttide.files.readings import ColumnMap, Known, RejectedRow, Row, check_map, guess, parameter_named, rows_of
from salttide.files.table import LONGEST_LINE, Line, lines_of, shape_of, unguarded, write_csv

ZONE = ZoneInfo("Europe/Copenhagen")
NOW = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)
KNOWN = Known({"Beacon": 1, "Skiff": 3}, {("R1", Parameter.SALINITY): 0.25}, ZONE, NOW)


class FileTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "table"

    def lines(self, content: bytes) -> list[Line]:
        self.path.write_bytes(content)
        return list(lines_of(self.path, shape_of(self.path)))


class Tables(FileTest):
    @settings(max_examples=150, deadline=None)
    @given(st.binary(max_size=400) | st.text(alphabet='ab,;"\n\r\t 1é', max_size=300).map(str.encode))
    def test_any_bytes_are_a_table_or_an_error_that_says_what_would_be(self, content):
        try:
            for line in self.lines(content):
                self.assertTrue(line.wrong or line.cells)
        except InputError as error:
            self.assertEqual(error.field, "file")
            self.assertTrue(error.accepted)

    def test_lines_keep_their_numbers_past_quotes_empty_and_long_lines(self):
        long = "x" * (LONGEST_LINE + 5)
        content = f'a,b\n1,2\n\n{long}\n"two\nlines",3\n4,5\n6\n'.encode()
        found = [(line.number, line.cells if not line.wrong else line.wrong[:12]) for line in self.lines(content)]
        self.assertEqual(
            found,
            [(4, "the line is "), (2, ["1", "2"]), (5, ["two\nlines", "3"]), (7, ["4", "5"]), (8, "1 cells, but")],
        )

    def test_a_file_larger_than_a_block_is_read_whole(self):
        rows = b"".join(b"%07d,%d\n" % (i, i % 10) for i in range(150_000))
        found = self.lines(b"number,digit\n" + rows)
        self.assertEqual(len(found), 150_000)
        self.assertEqual((found[-1].number, found[-1].cells), (150_001, ["0149999", "9"]))

    def test_two_hundred_columns_are_a_table_and_more_are_none(self):
        for count, good in ((200, True), (201, False)):
            header = ",".join(f"c{number}" for number in range(count)).encode()
            if good:
                self.assertEqual(len(self.lines(header + b"\n" + b"," * (count - 1) + b"1\n")[0].cells), count)
            else:
                with self.assertRaises(InputError):
                    self.lines(header + b"\n")

    def test_separators(self):
        for separator in (",", ";", "\t", "|"):
            with self.subTest(separator=separator):
                self.assertEqual(self.lines(f"a{separator}b\n1{separator}2\n".encode())[0].cells, ["1", "2"])

    def test_formulas_go_out_as_text(self):
        text = "".join(write_csv(("a",), iter([("=1+1",), ("+4",), ("@x",), ("-x",), ("plain",), (-4.5,)])))
        self.assertEqual(text, "a\r\n'=1+1\r\n'+4\r\n'@x\r\n'-x\r\nplain\r\n-4.5\r\n")

    def test_what_went_out_as_text_comes_in_as_it_was(self):
        for cell in ("=1+1", "-x", "plain", "'quoted'", ""):
            with self.subTest(cell=cell):
                written = "".join(write_csv(("a",), iter([(cell,)]))).splitlines()[1:]
                self.assertEqual(unguarded((written or [""])[0].strip('"')), cell)


class Columns(unittest.TestCase):
    def test_names_of_columns_are_guessed(self):
        found = guess(["Date", "Time", "KH (dKH)", "Ca", "Salinity [ppt]", "Kit", "Wind"])
        self.assertEqual(
            found.columns,
            {"Date": "date", "Time": "time", "KH (dKH)": "alkalinity", "Ca": "calcium", "Salinity [ppt]": "salinity",
             "Kit": "instrument"},
        )  # fmt: skip
        self.assertEqual(found.units, {"KH (dKH)": "dKH", "Salinity [ppt]": "ppt"})

    def test_parameters_by_key_name_and_abbreviation(self):
        for text, parameter in (("alkalinity", "alkalinity"), ("KH", "alkalinity"), ("Mg", "magnesium"), ("pH", "ph")):
            self.assertEqual(parameter_named(text).value, parameter)
        with self.assertRaises(InputError):
            parameter_named("hardness")

    def test_two_columns_of_one_kind_and_both_layouts_are_refused(self):
        for columns in ({"a": "at", "b": "value", "c": "calcium"}, {"a": "value", "b": "parameter"}, {"z": "at"}):
            with self.subTest(columns=columns), self.assertRaises(InputError):
                check_map(ColumnMap(columns, system="Beacon"), ["a", "b", "c"])


class Rows(unittest.TestCase):
    def one(self, cells: dict[str, str], **more) -> Row | RejectedRow:
        columns = ColumnMap({name: name for name in cells}, system="Beacon", **more)
        lines = iter([Line(2, list(cells.values()))])
        return next(iter(rows_of(lines, list(cells), columns, KNOWN)))

    def test_moments_in_the_keepers_zone(self):
        # Copenhagen is one hour ahead in winter, two in summer; a day alone counts as noon.
        for text, dates, stored in (
            ("2026-11-20 18:30", "iso", "2026-11-20T17:30:00Z"),
            ("2026-07-20T18:30", "iso", "2026-07-20T16:30:00Z"),
            ("2026-07-20T18:30:00+00:00", "iso", "2026-07-20T18:30:00Z"),
            ("2026-07-20", "iso", "2026-07-20T10:00:00Z"),
            ("20.7.26 18.30", "dmy", "2026-07-20T16:30:00Z"),
            ("20/07/2026", "dmy", "2026-07-20T10:00:00Z"),
            ("7/20/2026 18:30:05", "mdy", "2026-07-20T16:30:05Z"),
        ):
            with self.subTest(text=text):
                self.assertEqual(self.one({"at": text, "calcium": "412"}, dates=dates).at, stored)

    def test_moments_that_are_none(self):
        for text, dates in (("20.7.2026", "iso"), ("31.2.2026", "dmy"), ("2026-13-01", "iso"), ("", "iso")):
            with self.subTest(text=text):
                self.assertIn("is not a moment such as", self.one({"at": text, "calcium": "412"}, dates=dates).reason)

    def test_a_system_that_is_not_known_is_refused_on_every_line(self):
        columns = ColumnMap({name: name for name in ("at", "system", "calcium")})
        lines = [Line(n, ["2026-11-20T18:00:00Z", name, "412"]) for n, name in enumerate(("Dory", "beacon", "Dory"), 2)]
        found = list(rows_of(iter(lines), ["at", "system", "calcium"], columns, KNOWN))
        self.assertEqual([isinstance(one, RejectedRow) for one in found], [True, False, True])

    def test_values_units_and_scatter(self):
        row = {"at": "2026-11-20T18:00:00Z", "parameter": "salinity", "value": "1.0264", "unit": "SG 25/25"}
        found = self.one({**row, "instrument": "R1"})
        self.assertAlmostEqual(found.value, 35.0, delta=0.05)
        self.assertEqual((found.sd, found.instrument), (0.25, "R1"))
        own = self.one({**row, "parameter": "alkalinity", "value": "8,2", "unit": "dKH", "scatter": "0,1"},
                       decimal=DecimalSign.COMMA)  # fmt: skip
        self.assertAlmostEqual(own.value, 8.2 / 2.80385)
        self.assertAlmostEqual(own.sd, 0.1 / 2.80385)

    def test_a_wrong_cell_does_not_hide_the_others_of_its_line(self):
        cells = {"at": "2026-11-20T18:00:00Z", "alkalinity": "abc", "calcium": "412"}
        columns = ColumnMap({name: name for name in cells}, system="Skiff")
        bad, good = rows_of(iter([Line(7, list(cells.values()))]), list(cells), columns, KNOWN)
        self.assertEqual(bad, RejectedRow(7, "alkalinity: “abc” is not a number"))
        self.assertEqual((good.system_id, good.parameter, good.value), (3, "calcium", 412.0))
