"""Journeys through several places: by keyboard alone, on a phone, with edits, and with things that go wrong."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class KeyboardAlone(WebTest):
    """No mouse at all: every control is reached by focus and answers to Enter or Space."""

    def press(self, name: str, key: str = "Enter", role: str = "button") -> None:
        target = self.page.get_by_role(role, name=name).first
        target.focus()
        expect(target).to_be_focused()
        self.page.keyboard.press(key)

    def heading(self, name: str) -> None:
        self.sees(self.page.get_by_role("heading", name=name).first)

    def measured(self, name: str, text: str, good: int) -> None:
        self.page.get_by_label(name, exact=True).focus()
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("good", exact=True)).to_have_count(good)

    def tick_all(self) -> None:
        for box in self.page.get_by_role("checkbox").all():
            box.focus()
            self.page.keyboard.press("Space")
            expect(box).to_be_checked()

    def test_from_the_test_to_the_record(self) -> None:
        self.open("/", "Harbour")
        self.page.keyboard.press("b")
        expect(self.page.locator("#value-temperature")).to_be_focused()
        for text in ("25.4", "34.6", "7.0"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        self.page.keyboard.press("Control+Enter")
        self.heading("Alkalinity is low")
        self.page.keyboard.press("c")
        self.heading("What it takes")
        self.press("Add to the rota")
        self.heading("Next")
        self.press("Start at the tank")
        self.heading("Set out what you need")
        self.press("All at hand")
        self.heading("Look first")
        self.press("Done")
        self.heading("Does the batch match?")
        for count, (name, text) in enumerate((("Temperature", "25.3"), ("Salinity", "34.7"), ("Alkalinity", "8.5")), 1):
            self.measured(name, text, count)
        self.press("It matches: next")
        self.heading("Power off")
        self.tick_all()
        self.press("All off: next")
        self.heading("Let the heater cool")
        self.press("continue before it rings")
        self.page.get_by_label("Why it need not wait").focus()
        self.page.keyboard.type("cold already")
        self.press("Save the reason")
        for name, heading in (("Cooled", "Wipe the salt creep"), ("Done", "Scrape the panels"), ("Done", "Drain to")):
            self.press(name)
            self.heading(heading)
        for count in ("1 bucket so far", "2 buckets so far", "3 buckets so far"):
            self.press("Bucket emptied")
            self.sees(self.page.get_by_text(count))
        self.press("Drained: next")
        self.heading("Was sand siphoned?")
        self.press("Next")
        self.heading("Search the drained water")
        self.press("Nothing alive in it")
        self.heading("Refill slowly")
        for count in ("1 bucket so far", "2 buckets so far", "3 buckets so far"):
            self.press("Bucket poured")
            self.sees(self.page.get_by_text(count))
        self.press("Refilled: next")
        self.heading("Power on")
        self.tick_all()
        self.press("All on: next")
        self.heading("Dose the system")
        self.press("Done")
        self.heading("Skimmer settled?")
        self.press("It works")
        self.heading("Rinse, and look again")
        self.press("Done")
        self.sees(self.page.get_by_text("40.1 L out and 40.1 L in; planned were 40.1 L."))
        self.press("To the Sheet", role="link")
        self.sees(self.page.get_by_text("in band, expected").first)


class OnAPhone(WebTest):
    size = PHONE

    def test_a_session_with_one_hand(self) -> None:
        self.open("/systems/3/bench", "Bench, Skiff")
        self.page.locator("#value-salinity").fill("36.2")
        self.sees(self.page.locator("#verdict-salinity").get_by_text("above band").first)
        self.assert_fits()
        self.button("Save 1 result").click()
        self.sees(self.page.get_by_role("heading", name="Salinity is high: correct it first").first)
        self.assert_fits()

    def test_the_bar_at_the_foot_leads_everywhere(self) -> None:
        self.open("/", "Harbour")
        bar = self.page.get_by_role("navigation", name="Places at the foot")
        for name, heading in (("Rota", "Rota"), ("Bench", "Bench, Beacon"), ("Sheet", "Beacon"), ("Harbour", "Harbour")):
            bar.get_by_role("link", name=name).click()
            self.sees(self.page.get_by_role("heading", name=heading).first)
            self.assert_fits()

    def test_every_place_is_two_touches_away_at_any_width(self) -> None:
        self.open("/", "Harbour")
        for width in (320, 390, 768, 1280):
            self.page.set_viewport_size({"width": width, "height": 844})
            for name, heading in (
                ("Harbour", "Harbour"), ("Rota", "Rota"), ("Round", "Rota"), ("Sheet", "Beacon"),
                ("Bench", "Bench, Beacon"), ("Change", "Water change, Beacon"), ("Mix", "Mix"), ("Dosing", "Dosing"),
                ("What-if", "What if, Beacon"), ("Log", "Log"), ("Shelf", "Shelf"), ("Gear", "Gear"),
                ("Set-up", "Set-up, Beacon"), ("Settings", "Settings"),
            ):  # fmt: skip
                with self.subTest(width=width, place=name):
                    name_of_menu = "More" if width < 900 else "All places"
                    self.page.get_by_role("button", name=name_of_menu, exact=True).click()
                    menu = self.page.get_by_role("dialog").filter(has_text="All places")
                    menu.get_by_role("link", name=name, exact=True).click()
                    self.sees(self.page.get_by_role("heading", name=heading).first)
                    expect(menu).to_be_hidden()

    def test_the_tab_names_the_page_and_focus_moves_to_its_heading(self) -> None:
        self.open("/", "Harbour")
        expect(self.page).to_have_title("Harbour · Salt Tide")
        self.page.get_by_role("link", name="Rota").first.click()
        expect(self.page.get_by_role("heading", name="Rota").first).to_be_focused()
        expect(self.page).to_have_title("Rota · Salt Tide")
        self.page.keyboard.press("c")
        expect(self.page).to_have_title("Water change, Beacon · Salt Tide")
        # A page that has put the focus into a field keeps it there.
        self.page.keyboard.press("b")
        expect(self.page.locator("#value-temperature")).to_be_focused()

    def test_single_keys_can_be_switched_off(self) -> None:
        self.open("/", "Harbour")
        self.page.keyboard.press("?")
        self.page.get_by_label("single-key shortcuts").uncheck()
        self.button("Close").click()
        self.page.keyboard.press("r")
        self.page.keyboard.press("j")
        self.page.wait_for_timeout(300)
        expect(self.page).to_have_title("Harbour · Salt Tide")
        expect(self.page.get_by_label("What you measured or did")).to_have_count(0)
        self.page.reload()
        self.sees(self.page.get_by_role("heading", name="Harbour").first)
        self.page.keyboard.press("r")
        expect(self.page).to_have_title("Harbour · Salt Tide")

    def test_another_system_is_picked_at_the_top(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.page.get_by_label("System", exact=True).select_option(label="Eelgrass")
        self.sees(self.page.get_by_role("heading", name="Eelgrass"))

    def test_the_targets_at_the_tank_are_large(self) -> None:
        self.open("/systems/1/change", "Water change, Beacon")
        self.button("Start at the tank").click()
        self.sees(self.page.get_by_role("heading", name="Set out what you need"))
        box = self.button("All at hand").bounding_box()
        self.assertGreaterEqual(box["height"], 60)
        self.assertGreaterEqual(box["width"], 280)


class SetUp(WebTest):
    def part(self, title: str) -> None:
        """Open a part of the set-up."""
        self.page.get_by_role("button", name=title).click()

    def test_an_edit_moves_the_net_volume_while_typing_and_is_kept(self) -> None:
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.sees(self.page.get_by_text("box · 334.0 L net"))
        self.part("Size")
        self.page.get_by_label("Sump while running").fill("68")
        self.sees(self.page.get_by_text("344.0"))
        self.button("show working").click()
        self.sees(self.page.get_by_text("G − D + P"))
        self.sees(self.page.get_by_label("from now on; past volumes stay"))
        self.button("Save changes").click()
        self.sees(self.page.get_by_text("344 L net", exact=False).first)
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.part("What was changed")
        self.sees(self.page.get_by_text("Net volume: 334.0 L → 344.0 L"))
        self.sees(self.page.get_by_text("334.0 L until 24 Nov 2026"))

    def test_errors_open_their_part_and_what_was_typed_stays(self) -> None:
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.part("Target bands")
        self.page.get_by_label("Salinity, upper end").fill("350")
        self.part("Target bands")
        self.button("Save changes").click()
        self.sees(self.page.get_by_text("needs a look"))
        self.sees(self.page.get_by_text("0 to 45 ppt is accepted").first)
        expect(self.page.get_by_label("Salinity, upper end")).to_have_value("350")
        self.page.get_by_label("Salinity, upper end").fill("35.5")
        self.part("How it is kept")
        self.page.get_by_label("Routine change").fill("40")
        self.button("Save changes").click()
        self.sees(self.page.get_by_text("1 to 25 % is accepted").first)
        self.page.get_by_label("Routine change").fill("ten")
        self.button("Save changes").click()
        self.sees(self.page.get_by_text("“ten” is not a number").first)

    def test_gear_that_is_wrong_says_so_at_its_row(self) -> None:
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.part("Gear, and where it sits")
        row = self.page.get_by_role("listitem").filter(has_text="powerheads")
        for text, said in (("-4", "0 to 300 cm is accepted"), ("deep", "“deep” is not a number")):
            row.get_by_label("Water over it: powerheads").fill(text)
            self.button("Save changes").click()
            self.sees(row.get_by_text(said))

    def test_a_preset_and_a_school_fill_the_bands(self) -> None:
        self.open("/setup", "A new system")
        self.part("Target bands")
        self.page.get_by_label("Preset of target bands").select_option("small_polyp")
        expect(self.page.get_by_label("Nitrate, upper end")).to_have_value("8.0")
        expect(self.page.get_by_label("Alkalinity, lower end")).to_have_value("7.2")
        self.part("Your methods")
        self.page.get_by_label("Nutrients").select_option("rich")
        expect(self.page.get_by_label("Nitrate, upper end")).to_have_value("25.0")
        self.page.get_by_label("Top-off").select_option("plumbed")
        self.sees(self.page.get_by_text("safeguards that differ in kind"))

    def test_a_band_for_what_only_a_laboratory_measures(self) -> None:
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.part("Target bands")
        lower, upper = (self.page.get_by_label(f"Strontium, {end} end") for end in ("lower", "upper"))
        expect(lower).to_have_count(0)
        self.button("What a laboratory or a probe measures").click()
        lower.fill("6")
        upper.fill("10")
        # A preset says nothing of it.
        self.page.get_by_label("Preset of target bands").select_option("large_polyp")
        expect(lower).to_have_value("6")
        self.button("Save changes").click()
        # Stored, it leads to the tank's sheet.
        self.page.wait_for_url("**/systems/1/sheet")
        self.open("/systems/1/setup", "Set-up, Beacon")
        self.part("Target bands")
        expect(upper).to_have_value("10")

    def test_a_new_system_from_nothing_part_by_part(self) -> None:
        self.open("/setup", "A new system")
        self.page.get_by_label("Name").fill("Dinghy")
        self.button("Next").click()
        self.page.locator(".v-select", has_text="Shape of the display").click()
        self.page.get_by_role("option", name="cylinder").click()
        self.page.get_by_label("Inside diameter").fill("60")
        self.page.get_by_label("Water depth").fill("50")
        self.sees(self.page.get_by_text("141.4"))
        self.page.get_by_label("calculate rock and sand").check()
        self.page.get_by_label("Rock, dry").fill("20")
        self.sees(self.page.get_by_text("131.4"))
        for _ in range(5):
            self.button("Next").click()
        self.sees(self.page.get_by_label("Temperature, most in a day"))
        self.assert_accessible()
        self.button("Set up").click()
        self.sees(self.page.get_by_role("heading", name="Dinghy", exact=True))
        self.sees(self.page.get_by_text("131 L net", exact=False).first)

    def test_animals_and_light_with_their_way_back(self) -> None:
        self.open("/systems/3/setup", "Set-up, Skiff")
        self.part("Livestock")
        self.page.get_by_role("textbox", name="Another animal").fill("shrimp")
        self.page.get_by_label("How many").fill("2")
        self.page.get_by_label("How many").press("Enter")
        self.sees(self.page.get_by_text("2 × shrimp"))
        self.page.get_by_role("listitem").filter(has_text="2 × shrimp").get_by_role("button", name="number").click()
        self.page.get_by_label("How many shrimp").fill("3")
        self.button("Save").click()
        self.sees(self.page.get_by_text("1 to 2", exact=False).first)
        self.page.get_by_label("How many shrimp").fill("1")
        self.page.get_by_label("How many shrimp").press("Enter")
        self.sees(self.page.get_by_text("1 × shrimp"))
        self.button("Undo").click()
        self.sees(self.page.get_by_text("2 × shrimp"))
        self.part("Light")
        self.page.get_by_label("Off", exact=True).fill("20:00")
        self.button("Set the light").click()
        self.sees(self.page.get_by_text("8.0 h, 12:00 to 20:00, ramp 45 min").first)
        self.assert_accessible()

    def test_archived_and_back(self) -> None:
        self.open("/systems/2/setup", "Set-up, Eelgrass")
        self.part("What was changed")
        self.button("Archive this system").click()
        self.sees(self.page.get_by_text("Eelgrass is archived"))
        self.sees(self.page.get_by_role("heading", name="Harbour"))
        self.page.locator(".archived").get_by_role("link", name="Eelgrass").click()
        self.part("What was changed")
        self.button("Restore this system").click()
        self.sees(self.page.get_by_text("Eelgrass is in use again"))
        self.sees(self.page.get_by_role("heading", name="Harbour"))
        expect(self.page.locator(".archived")).to_have_count(0)

    def test_a_name_that_is_taken(self) -> None:
        self.open("/setup", "A new system")
        self.page.get_by_label("Name").fill("Beacon")
        self.button("Next").click()
        for label, text in (("Inside length", "60"), ("Inside width", "40"), ("Water depth", "30")):
            self.page.get_by_label(label).fill(text)
        self.button("Set up").click()
        self.sees(self.page.get_by_text("there is a system named Beacon already").first)
        expect(self.page.get_by_label("Inside length")).to_have_value("60")

    def test_units_reach_every_place(self) -> None:
        self.open("/settings", "Settings")
        self.page.locator(".v-select", has_text="AlkalinitydKH").click()
        self.page.get_by_role("option", name="meq/L").click()
        self.button("Save").click()
        self.sees(self.page.get_by_text("Settings saved."))
        self.open("/systems/1/sheet", "Beacon")
        self.sees(self.page.locator("figure", has_text="Alkalinity").get_by_text("meq/L").first)
        self.open("/", "Harbour")
        self.sees(self.page.get_by_text("2.57 meq/L is 0.10 meq/L under the band").first)

    def test_a_zone_that_is_none(self) -> None:
        self.open("/settings", "Settings")
        self.page.get_by_label("Time zone").fill("Atlantis/Harbour")
        self.button("Save").click()
        self.sees(self.page.get_by_text("is not a time zone"))


class Harbour(WebTest):
    def test_every_staff_says_its_days_in_words_too(self) -> None:
        self.open("/", "Harbour")
        staff = self.page.get_by_role("group", name="Days ahead").first
        self.sees(staff)
        # A name opens its day.
        day = staff.get_by_role("link").first
        self.assertRegex(day.get_attribute("aria-label"), r" (today|late|in \d+ d)$")
        day.click()
        self.page.wait_for_url("**/rota/round?day=2026-*")
        self.page.goto(f"{self.server.url}/systems/1/bench")
        self.sees(self.page.get_by_role("img", name="Days ahead: ").first)

    def test_the_next_round_is_done_from_here(self) -> None:
        self.open("/", "Harbour")
        round_ = self.page.get_by_role("region", name="Today’s round")
        items = round_.get_by_role("listitem").filter(has=self.page.get_by_role("button", name="Done"))
        first = items.first
        told = first.inner_text()
        name = told.splitlines()[1]
        first.get_by_role("button", name="Done").click()
        self.sees(self.page.get_by_text(f"{name}: done"))
        self.button("Undo").click()
        self.sees(round_.get_by_text(name))
        self.assertEqual(items.first.inner_text(), told)
        # What has to say something opens its programme.
        round_.get_by_role("button", name="Open it").first.click()
        self.sees(self.page.get_by_role("heading", name="Likely dinoflagellates (brown strands)", level=1))


class GoingWrong(WebTest):
    def test_a_dead_server_says_so_and_the_page_recovers(self) -> None:
        # Nothing of the Rota is there yet: its files and its answer are asked for when it is opened.
        self.context.new_cdp_session(self.page).send("Network.clearBrowserCache")
        self.open("/", "Harbour")
        self.server.kill()
        self.page.keyboard.press("r")
        self.sees(self.page.get_by_text("Salt Tide does not answer"))
        self.server.start()
        self.page.keyboard.press("r")
        self.sees(self.page.get_by_role("heading", name="Rota"))
        self.sees(self.page.locator("button.task").first)
        self.errors.clear()  # the browser reports the file that it did not get

    def test_a_place_that_was_open_before_stays_readable_and_says_what_is_missing(self) -> None:
        self.open("/rota", "Rota")
        self.sees(self.page.locator("button.task").first)
        # The systems have numbers once they are known, and then the clock shows too.
        self.sees(self.page.get_by_text("Tue 24 Nov · 18:40"))
        self.page.wait_for_load_state("networkidle")
        self.page.keyboard.press("3")
        self.sees(self.page.get_by_role("heading", name="Skiff"))
        self.server.kill()
        self.page.keyboard.press("2")
        self.sees(self.page.get_by_text("Salt Tide does not answer"))
        self.page.keyboard.press("r")
        self.sees(self.page.locator("button.task").first)
        self.server.start()
        self.page.keyboard.press("2")
        self.sees(self.page.get_by_role("heading", name="Eelgrass"))

    def test_a_system_that_does_not_exist(self) -> None:
        self.page.goto(f"{self.server.url}/systems/77/sheet")
        self.sees(self.page.get_by_text("there is no system 77"))

    def test_work_that_was_abandoned_keeps_its_reason(self) -> None:
        self.open("/systems/1/change", "Water change, Beacon")
        self.button("Start at the tank").click()
        self.sees(self.page.get_by_role("heading", name="Set out what you need"))
        self.button("abandon").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Abandon").click()
        self.sees(self.page.get_by_text("say why in a few words"))
        self.page.get_by_label("Why").fill("the phone rang")
        self.page.keyboard.press("Enter")
        self.sees(self.page.get_by_role("heading", name="Abandoned"))
        self.sees(self.page.get_by_text("the phone rang"))

    def test_the_night_theme_is_remembered(self) -> None:
        self.open("/", "Harbour")
        self.button("Night colours").click()
        self.sees(self.button("Day colours"))
        self.page.reload()
        self.sees(self.button("Day colours"))
        ground = self.page.evaluate("getComputedStyle(document.querySelector('.v-application')).backgroundColor")
        self.assertEqual(ground, "rgb(14, 34, 48)")

    def test_fonts_come_with_the_app(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.assertTrue(self.page.evaluate("document.fonts.ready.then(() => document.fonts.check('16px \"Source Sans 3 Variable\"'))"))
        fonts = [url for url in self.requests if "woff2" in url]
        self.assertTrue(fonts)
        self.assertTrue(all(url.startswith(self.server.url) for url in fonts))


class Sheet(WebTest):
    def test_dragging_moves_the_time_of_all_strips(self) -> None:
        self.open("/systems/1/sheet", "Beacon")
        self.page.wait_for_load_state("networkidle")
        now = self.page.locator("svg.axis line.now")
        before = float(now.get_attribute("x1"))
        box = self.page.locator("figure svg").first.bounding_box()
        self.page.mouse.move(box["x"] + 500, box["y"] + 60)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 620, box["y"] + 60, steps=6)
        self.page.mouse.up()
        after = float(now.get_attribute("x1"))
        self.assertAlmostEqual(after - before, 120, delta=8)
        for line in self.page.locator("figure line.now").all():
            self.assertAlmostEqual(float(line.get_attribute("x1")), after, delta=0.01)

    def test_the_plan_shows_on_the_lane_and_in_the_strips(self) -> None:
        self.open("/systems/1/change", "Water change, Beacon")
        self.button("Add to the rota").click()
        self.sees(self.page.get_by_role("heading", name="Change 40.1 L"))
        expect(self.page.locator("g.planned rect")).to_have_count(1)
        self.sees(self.page.get_by_role("complementary", name="Next").get_by_text("mix 1.54 kg Kittiwake Standard"))
