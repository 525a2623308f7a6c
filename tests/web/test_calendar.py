"""The calendar in the browser: how it is wanted, its address, absences out of a file, and what the browser tells."""

from __future__ import annotations

from tests.api.test_calendar import WEEK_AWAY
from tests.stage import PHONE
from tests.web.base import WebTest


class Calendar(WebTest):
    def test_how_it_is_wanted_is_a_sentence_and_its_address_comes_and_goes(self) -> None:
        self.open("/rota/calendar", "Rota")
        self.page.get_by_label("Each task is").select_option("to_do")
        self.page.get_by_label("Minutes before the alarm rings").fill("2000")
        self.button("Save").click()
        self.sees(self.page.get_by_text("0 to 1440 min, or none"))
        self.assertEqual(self.page.get_by_label("Minutes before the alarm rings").input_value(), "2000")
        self.page.get_by_label("Minutes before the alarm rings").fill("30")
        self.button("Save").click()
        self.sees(self.page.get_by_text("calendar saved"))
        self.button("Create link").click()
        address = self.page.get_by_label("Calendar link")
        self.sees(address)
        self.assertIn("BEGIN:VTODO", self.page.request.get(address.input_value()).text())
        self.assert_accessible()
        self.button("remove the link").click()
        self.sees(self.button("Create link"))

    def test_absences_are_seen_then_kept_then_taken_back(self) -> None:
        self.open("/rota/calendar", "Rota")
        chooser = self.page.get_by_label("iCalendar file")
        chooser.set_input_files({"name": "odd.ics", "mimeType": "text/calendar", "buffer": b"hello"})
        self.sees(self.page.get_by_text("odd.ics: this is not an iCalendar file that can be read"))
        text = WEEK_AWAY.format(end="20261208", more="").encode()
        chooser.set_input_files({"name": "mine.ics", "mimeType": "text/calendar", "buffer": text})
        self.sees(self.page.get_by_text("Fri 4 Dec to Mon 7 Dec, Skagen"))
        self.button("Save 1").click()
        self.sees(self.page.get_by_text("1 absence imported"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("Undone."))
        self.open("/rota/time", "Rota")
        self.sees(self.page.get_by_text("No absences planned."))

    def test_the_browser_tells_once_about_the_days_work(self) -> None:
        self.context.grant_permissions(["notifications"])
        # The clock of the household stands at 18:40, after the hour of the day's work.
        self.page.add_init_script(
            "window.told = []; window.Notification = class { constructor(title, more) {"
            " window.told.push(title + ': ' + more.body) }"
            " static permission = 'granted'; static requestPermission = async () => 'granted' };"
            " delete Navigator.prototype.serviceWorker"
        )
        self.open("/rota/calendar", "Rota")
        self.page.get_by_label("notify me of the day’s work").check()
        self.until(lambda: self.page.evaluate("window.told.length") == 1)
        self.assertRegex(self.page.evaluate("window.told[0]"), r"^Today's round: \d+ tasks?, \d+ min, from 18:00")
        self.open("/rota", "Rota")
        self.page.wait_for_load_state("networkidle")
        self.assertEqual(self.page.evaluate("window.told.length"), 0)


class OnAPhone(WebTest):
    size = PHONE

    def test_it_fits(self) -> None:
        self.open("/rota/calendar", "Rota")
        self.sees(self.page.get_by_label("Each task is"))
        self.assert_fits()
