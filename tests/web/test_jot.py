"""The jot line in the browser: one key away, answered while typing, pointing at what it does not understand."""

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class JotLine(WebTest):
    def line(self):
        return self.page.get_by_label("A sum in plain words")

    def ask(self, text: str) -> None:
        self.line().fill(text)

    def open_calculator(self) -> None:
        self.button("Calculator").click()

    def open_line(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.page.keyboard.press("=")
        expect(self.line()).to_be_focused()

    def test_a_sum_is_answered_while_it_is_typed_with_caution_and_working(self) -> None:
        self.open_line()
        self.page.keyboard.type("soda for +2 dkh")
        self.sees(self.page.get_by_text("12.6 g over 2 days"))
        self.sees(self.page.get_by_text("alkalinity in Beacon (334.0 L)"))
        self.sees(self.page.get_by_role("note").filter(has_text="Soda ash is caustic"))
        self.button("Show working").click()
        self.sees(self.page.get_by_text("mass of the additive"))
        self.assert_accessible()
        self.assert_fits()

    def test_it_points_at_the_word_it_does_not_understand(self) -> None:
        self.open_line()
        self.ask("salt for sixty l to 35")
        expect(self.page.locator(".wrong")).to_have_text("sixty")
        self.sees(self.page.get_by_text("Expected: a volume, such as 60 l"))
        expect(self.line()).to_have_attribute("aria-invalid", "true")
        self.ask("salt for 60 l to 35")
        self.sees(self.page.get_by_text("2.226 kg"))
        expect(self.page.locator(".wrong")).to_have_count(0)

    def test_enter_keeps_it_an_example_can_be_taken_and_escape_goes_back(self) -> None:
        self.open_line()
        self.ask("8 dkh in meq/l")
        self.sees(self.page.get_by_text("2.853 meq/L"))
        self.line().press("Enter")
        expect(self.line()).to_have_value("")
        self.sees(self.page.get_by_role("heading", name="Earlier sums"))
        self.page.get_by_role("button", name="mark for 40 l in beacon").click()
        self.sees(self.page.get_by_text("6.1 cm", exact=True))
        self.page.keyboard.press("Escape")
        expect(self.line()).to_be_hidden()
        self.page.keyboard.press("=")
        expect(self.line()).to_have_value("mark for 40 l in beacon")

    def test_the_line_outlives_a_reload_and_a_dead_server(self) -> None:
        self.open_line()
        self.ask("weaken 45 l from 36 to 35")
        self.sees(self.page.get_by_text("1.25 L", exact=True))
        self.page.reload()
        self.sees(self.page.get_by_role("heading", name="Beacon").first)
        self.open_calculator()
        expect(self.line()).to_have_value("weaken 45 l from 36 to 35")
        self.server.stop()
        self.ask("weaken 45 l from 37 to 35")
        self.sees(self.page.get_by_text("Salt Tide does not answer"))
        expect(self.line()).to_have_value("weaken 45 l from 37 to 35")

    def test_a_decimal_comma_once_it_is_set(self) -> None:
        self.open("/settings", "Settings")
        self.page.locator(".v-select", has_text="Decimal sign").click()
        self.page.get_by_role("option", name="comma").click()
        expect(self.page.get_by_role("listbox")).to_have_count(0)
        self.page.locator(".v-select", has_text="gal").click()
        self.page.get_by_role("option", name="US gallon").click()
        self.sees(self.page.locator(".v-select", has_text="US gallon, 3.785 L"))
        self.button("Save").click()
        self.sees(self.page.get_by_text("Settings saved"))
        self.open_calculator()
        self.ask("0,5 gal in l")
        self.sees(self.page.get_by_text("1,893 L"))
        self.page.keyboard.press("Escape")
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.page.get_by_role("button", name="Size").click()
        self.page.get_by_label("Inside length").fill("118,5")
        self.sees(self.page.get_by_text("336,3 L net"))


class Record(WebTest):
    """The same line without "=": what was measured and done."""

    def line(self):
        return self.page.get_by_label("What you measured or did, in plain words")

    def open_line(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.page.keyboard.press("j")
        expect(self.line()).to_be_focused()

    def test_it_is_understood_before_it_is_kept_and_taken_back_after(self) -> None:
        self.open_line()
        self.page.keyboard.type("skiff topped off 2 l, sal 35.9")
        self.sees(self.page.get_by_text("Top-off: 2.00 L of fresh water"))
        self.sees(self.page.get_by_text("Salinity 35.9 ppt, refractometer R1", exact=False))
        self.assert_accessible()
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_text("Skiff: 2 entries, saved"))
        expect(self.line()).to_have_value("")
        self.button("undo").click()
        self.sees(self.page.get_by_text("undone"))
        self.page.keyboard.press("Escape")
        self.open("/log", "Log")
        self.sees(self.page.locator(".gone, del, s", has_text="Top-off").first)

    def test_the_last_word_is_completed_by_the_arrow(self) -> None:
        self.open_line()
        self.page.keyboard.type("dosed 40 ml soda st")
        self.sees(self.page.get_by_role("button", name="soda stock"))
        self.page.keyboard.press("ArrowRight")
        expect(self.line()).to_have_value("dosed 40 ml soda stock ")
        self.sees(self.page.get_by_text("Dose: 40 mL of soda stock, 4.00 g Na2CO3"))

    def test_it_points_at_what_it_does_not_understand_and_asks_about_what_was_not_expected(self) -> None:
        self.open_line()
        self.line().fill("alk 79")
        expect(self.page.locator(".wrong")).to_have_text("79")
        expect(self.line()).to_have_attribute("aria-invalid", "true")
        self.line().fill("alk 12.9")
        self.sees(self.page.get_by_text("Expected 7.3 dKH"))
        self.line().press("Enter")
        self.sees(self.page.get_by_role("alert").filter(has_text="Is 12.9 dKH right?"))
        self.button("It is right, save it").click()
        self.sees(self.page.get_by_text("Alkalinity 12.9 dKH", exact=False))

    def test_an_equals_sign_turns_it_to_sums_and_back(self) -> None:
        self.open_line()
        self.page.keyboard.type("= 8 dkh in meq/l")
        self.sees(self.page.get_by_text("2.853 meq/L"))
        self.page.get_by_label("A sum in plain words").fill("")
        self.page.keyboard.press("Backspace")
        expect(self.line()).to_be_visible()

    def test_what_cannot_be_read_gets_lines_that_can_be_pressed(self) -> None:
        self.open_line()
        self.line().fill("chnge 40 l")
        self.sees(self.page.get_by_text("I can't read “chnge”"))
        self.button("change 45 l").click()
        expect(self.line()).to_have_value("change 45 l")
        self.sees(self.page.get_by_text("Water change of 45.0 L"))
        # A sum is passed on to the calculator.
        self.line().fill("40*0.12")
        self.button("= 40*0.12").click()
        self.sees(self.page.get_by_text("4.8", exact=True))

    def test_nothing_typed_is_lost_with_a_dead_server(self) -> None:
        self.open_line()
        self.line().fill("alk 7.8")
        self.sees(self.page.get_by_text("Alkalinity 7.8 dKH, titration kit T1", exact=False))
        self.server.kill()
        self.line().press("Enter")
        self.sees(self.page.get_by_role("alert").filter(has_text="does not answer"))
        expect(self.line()).to_have_value("alk 7.8")
        self.server.start()
        self.line().press("Enter")
        self.sees(self.page.get_by_text("Beacon: Alkalinity 7.8 dKH", exact=False))


class JotLineOnAPhone(JotLine):
    size = PHONE

    def open_line(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.open_calculator()
        expect(self.line()).to_be_focused()

    def open_calculator(self) -> None:
        self.page.get_by_role("button", name="More", exact=True).click()
        self.button("Calculator").click()
