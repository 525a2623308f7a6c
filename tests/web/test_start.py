"""The first ten minutes, from an empty database to a first plan; and what its places say before that."""

from playwright.sync_api import expect

from tests.stage import PHONE
from tests.web.base import WebTest


class FirstTenMinutes(WebTest):
    empty = True
    litres, salinity = "200", "34.8"
    salt = "605"
    """Grams for a tenth of the tank's 170 L, as salty as it is: 17 L of a salt that is 35 g in a kilogram of seawater,
    17 x 35 x 1.02334 x 34.8 / 35."""

    def begin(self) -> None:
        self.open("/", "Harbour")
        self.page.get_by_role("link", name="Start with your tank").click()
        self.sees(self.page.get_by_role("heading", name="Your tank"))

    def test_a_name_and_the_litres_lead_to_a_first_plan(self) -> None:
        self.begin()
        self.assert_accessible()
        self.assert_fits()
        self.page.get_by_label("Name", exact=True).fill("Dinghy")
        self.page.get_by_label("Volume, as the tank is sold").fill(self.litres)
        self.page.get_by_label("skimmer", exact=True).check()
        self.page.get_by_label("Salt, the name on the bucket").fill("Plainmark Basic")
        self.page.get_by_label("Alkalinity").fill("5.9")
        self.page.get_by_label("Salinity").fill(self.salinity)
        self.button("Set up and show the first plan").click()
        self.sees(self.page.get_by_role("heading", name="Dinghy, your first plan"))
        # How much salt for a change, how much to dose today, what to do this week, what to test next.
        change = self.page.locator("section").filter(has=self.page.get_by_role("heading", name="A water change"))
        self.sees(change.get_by_text(f"{self.salt} g"))
        dose = self.page.locator("section").filter(has=self.page.get_by_role("heading", name="Today's dose"))
        self.sees(dose.get_by_text("Alkalinity is low"))
        self.sees(dose.get_by_text("soda ash", exact=False).first)
        week = self.page.locator("section").filter(has=self.page.get_by_role("heading", name="This week"))
        self.sees(week.get_by_text("Empty the skimmer cup").first)
        self.sees(self.page.get_by_text("Not tested yet: Temperature, Calcium"))
        self.assert_accessible()
        self.assert_fits()

    def test_units_chosen_first_hold_for_all_that_is_not_asked(self):
        self.begin()
        self.page.get_by_label("Name", exact=True).fill("Dinghy")
        self.button("US").click()
        self.sees(self.page.get_by_text("gal", exact=True).first)
        self.page.get_by_label("Volume, as the tank is sold").fill("55")
        self.page.get_by_label("Alkalinity").fill("6.9")
        self.page.get_by_label("Water change").fill("yesterday")
        self.button("Set up and show the first plan").click()
        self.sees(self.page.get_by_role("heading", name="Dinghy, your first plan"))
        kept = self.page.request.get(f"{self.server.url}/api/systems/1").json()
        # 55 US gal are 208.2 L.
        self.assertAlmostEqual(kept["geometry"]["stated_l"], 55 * 3.785411784, places=6)

    def test_a_slip_is_said_at_its_field_and_nothing_typed_is_lost(self) -> None:
        self.begin()
        self.page.get_by_label("Name", exact=True).fill("Dinghy")
        self.button("Set up and show the first plan").click()
        self.sees(self.page.get_by_text("nter a number").first)
        self.page.get_by_label("Volume, as the tank is sold").fill("200")
        self.page.get_by_label("Alkalinity").fill("lots")
        self.button("Set up and show the first plan").click()
        self.sees(self.page.get_by_text("is not a number").first)
        self.page.reload()
        expect(self.page.get_by_label("Name", exact=True)).to_have_value("Dinghy")
        expect(self.page.get_by_label("Alkalinity")).to_have_value("lots")

    def test_every_place_says_what_it_is_for_before_there_is_a_tank(self) -> None:
        for path in ("sheet", "bench", "change", "dosing", "what-if"):
            with self.subTest(path=path):
                self.page.goto(f"{self.server.url}/systems/1/{path}")
                self.sees(self.page.get_by_role("link", name="Start with your tank"))
                expect(self.page.get_by_text("Not found")).to_have_count(0)
        for path in ("/rota", "/rota/round", "/mix", "/log", "/shelf", "/gear", "/settings"):
            with self.subTest(path=path):
                self.page.goto(f"{self.server.url}{path}")
                self.sees(self.page.get_by_role("heading").first)
                expect(self.page.get_by_text("Not found")).to_have_count(0)


class FirstTenMinutesInUsUnits(FirstTenMinutes):
    # 200 L are 52.8344 US gallons; a decimal comma is read too.
    litres, salinity = "52.8344 US gal", "34,8"


class FirstTenMinutesOnAPhone(FirstTenMinutes):
    size = PHONE
