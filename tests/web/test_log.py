"""The log: filtered, corrected, and readings brought in from a table with a bad row."""

import re
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest

SHEET = "Date;Time;KH;Ca;remark\n24.10.2026;18:30;8,1;412;x\n25.10.2026;07:15;8,0;;\n26.10.2026;19:00;abc;415;\n"


class TheLog(WebTest):
    def test_filtered_by_system_and_kind_and_further_back(self) -> None:
        self.open("/log", "Log")
        # A page is 60 entries; the results of one test session are one line, and say how many they are.
        self.until(lambda: self.entries() == 60)
        self.button("Show earlier").click()
        self.until(lambda: self.entries() == 120)
        self.page.get_by_label("System", exact=True).select_option("Eelgrass")
        self.page.get_by_label("Kind of entry").select_option("visual checks")
        self.sees(self.page.get_by_text("slimy brown strands").first)
        expect(self.page.locator("tbody tr", has_text="Beacon")).to_have_count(0)
        self.page.get_by_label("from").fill("2027-01-01")
        self.sees(self.page.get_by_text("No entries match"))
        self.assert_accessible()
        self.assert_fits()

    def entries(self) -> int:
        """How many entries the lines stand for."""
        sessions = self.page.locator("tbody tr .session").all_inner_texts()
        held = [int(found[1]) for text in sessions if (found := re.search(r"(\d+) results", text))]
        return int(self.page.locator("tbody tr").count()) - len(held) + sum(held)

    def test_a_note_on_an_entry_is_found_again_by_its_words(self) -> None:
        self.open("/log?system=1", "Log")
        row = self.page.locator("tr", has_text="Scrape the front").first
        row.get_by_role("button", name="Note on").click()
        self.page.get_by_role("textbox", name="Note on Scrape the front").fill("left corner kept for the limpets")
        self.button("Save").click()
        self.sees(self.page.locator("tr", has_text="kept for the limpets"))
        self.page.keyboard.press("/")
        self.page.get_by_role("combobox", name="Search").fill("limpets")
        self.sees(self.page.get_by_role("option", name="Scrape the front, Beacon"))
        self.assert_accessible()
        self.page.keyboard.press("Enter")
        self.page.wait_for_url("**/log?system=1&first=2026-11-24&last=2026-11-24")
        self.sees(self.page.locator("tr", has_text="kept for the limpets"))

    def test_a_session_opens_to_its_results(self) -> None:
        self.open("/log?system=1", "Log")
        session = self.page.locator("tr", has_text="Test session").first
        self.sees(session.get_by_text("Alkalinity 7.2 dKH · Salinity 34.2 ppt · Temperature 25.4 °C"))
        expect(self.page.get_by_role("button", name="Correct")).to_have_count(0)
        session.get_by_role("button", name="Test session").click()
        expect(self.page.get_by_role("button", name="Correct")).to_have_count(3)

    def test_a_correction_keeps_the_old_value(self) -> None:
        self.open("/log?system=1", "Log")
        self.button("Test session, 3 results").click()
        row = self.page.locator("tr.within", has_text="Alkalinity 7.2 dKH")
        row.get_by_role("button", name="Correct").click()
        self.page.get_by_label("Corrected Alkalinity 7.2 dKH").fill("7.6")
        self.button("Save").click()
        self.sees(self.page.get_by_text("the old value stays in the record"))
        self.sees(self.page.locator("tr.gone", has_text="Alkalinity 7.2 dKH"))
        self.sees(self.page.locator("tr", has_text="Alkalinity 7.6 dKH").first)


class Import(WebTest):
    def bring(self, text: str) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "my sheet.csv"
        path.write_text(text, "utf-8")
        self.page.locator("input[type=file]").set_input_files(str(path))

    def test_a_table_with_a_bad_row_is_mapped_checked_kept_and_taken_back(self) -> None:
        self.open("/log?import", "Log")
        self.bring(SHEET)
        self.sees(self.page.get_by_text("my sheet.csv"))
        expect(self.page.get_by_label("Column KH is")).to_have_value("alkalinity")
        self.button("Check the file").click()
        self.sees(self.page.get_by_role("alert").filter(has_text="nothing says which system"))
        self.page.get_by_label("System of all rows").select_option("Beacon")
        self.page.get_by_label("Dates are written").select_option("dmy")
        self.page.get_by_label("Decimals have a").select_option(",")
        self.page.get_by_label("Save this mapping as").fill("notepad")
        self.button("Check the file").click()
        self.page.get_by_text("1 skipped, with line and reason").click()
        self.sees(self.page.get_by_text("line 4: alkalinity: “abc” is not a number"))
        self.sees(self.page.get_by_role("cell", name="Alkalinity 8.1 dKH"))
        self.assert_accessible()
        self.button("Save 4 readings").click()
        self.sees(self.page.get_by_text("kept 4 readings, 1 left out").first)
        self.page.get_by_label("to", exact=True).fill("2026-10-26")
        self.sees(self.page.locator("tr", has_text="imported").filter(has_text="Alkalinity 8.1 dKH"))
        self.button("Undo").click()
        expect(self.page.locator("tr", has_text="imported")).to_have_count(0)
        self.bring(SHEET)
        self.button("notepad").click()
        self.button("Check the file").click()
        self.sees(self.button("Save 4 readings"))

    def test_a_file_that_is_no_table_says_what_would_be(self) -> None:
        self.open("/log?import", "Log")
        self.bring("just words\n")
        self.sees(self.page.get_by_role("alert").filter(has_text="no columns are found"))


class OnThePhone(WebTest):
    size = PHONE

    def test_the_log_fits(self) -> None:
        self.open("/log", "Log")
        self.assert_fits()
        self.assert_accessible()
