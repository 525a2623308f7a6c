"""Hand-over in the browser: told, printed, the carer's own page on a phone, and the report that comes back."""

from __future__ import annotations

from io import BytesIO

from PIL import Image

from tests.stage import PHONE, open_context
from tests.web.base import WebTest, expect


class HandOver(WebTest):
    visitors = True

    def setUp(self) -> None:
        super().setUp()
        self.open("/rota/time", "Rota")
        self.page.get_by_label("First day").fill("2026-11-25")
        self.page.get_by_label("Last day").fill("2026-11-30")
        self.button("Add absence").click()
        self.page.get_by_role("link", name="hand over to a carer").click()
        self.sees(self.page.get_by_role("heading", name="Before you leave"))

    def told(self) -> str:
        """Tell who is to be called; the address of the carer's page, on the port for visitors."""
        self.page.get_by_label("Who comes").fill("the neighbour")
        self.page.get_by_label("Number to call").fill("+45 00 00 00 01")
        self.button("Save").click()
        self.button("Create the carer's page").click()
        link = self.page.get_by_label("The carer’s own page")
        self.sees(link)
        return link.input_value().replace(self.server.url, self.server.visitors_url)

    def carer(self, address: str):
        context = open_context(PHONE)
        self.addCleanup(context.close)
        context.on("request", lambda request: self.requests.append(request.url))
        page = context.new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.goto(address)
        expect(page.get_by_role("heading", name="Hand-over for the neighbour")).to_be_visible()
        return page

    def test_without_a_number_it_is_refused_there_and_what_was_typed_stays(self) -> None:
        self.page.get_by_label("Who comes").fill("the neighbour")
        self.button("Save").click()
        self.sees(self.page.get_by_text("a number that reaches you, or who can decide"))
        expect(self.page.get_by_label("Who comes")).to_have_value("the neighbour")
        self.assert_accessible()

    def test_printed_it_is_the_sheet_alone(self) -> None:
        self.told()
        self.page.emulate_media(media="print")
        self.sees(self.page.get_by_text("When something is wrong, in any of them"))
        self.sees(self.page.get_by_role("region", name="Beacon").get_by_text("Feed frozen mysids").first)
        for gone in ("Before you leave", "Save", "Weeks", "print"):
            expect(self.page.get_by_text(gone, exact=True).first).to_be_hidden()

    def test_the_carer_sees_the_sheet_and_nothing_else_and_reports(self) -> None:
        page = self.carer(self.told())
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
        expect(page.get_by_role("link", name="Harbour")).to_have_count(0)
        page.get_by_text("Report of a visit to Skiff").click()
        skiff = page.get_by_role("region", name="Skiff")
        skiff.get_by_label("Top off").check()
        skiff.get_by_label("Temperature reading").fill("warm")
        skiff.get_by_label("What you found").fill("the anemone is open")
        skiff.get_by_role("button", name="Send the report").click()
        expect(skiff.get_by_role("alert").first).to_be_visible()
        page.reload()
        page.get_by_text("Report of a visit to Skiff").click()
        expect(skiff.get_by_label("What you found")).to_have_value("the anemone is open")
        skiff.get_by_label("Temperature reading").fill("25.2")
        out = BytesIO()
        Image.new("RGB", (64, 48), (30, 120, 150)).save(out, "PNG")
        skiff.get_by_label("Picture of Skiff").set_input_files(
            {"name": "anemone.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
        expect(skiff.get_by_text("1 saved")).to_be_visible()
        self.assert_accessible(page)
        skiff.get_by_role("button", name="Send the report").click()
        expect(page.get_by_text("The report is sent. Thank you.")).to_be_visible()
        self.taken()

    def taken(self) -> None:
        """The keeper sees the report, takes it into the record, and takes that back."""
        self.page.reload()
        self.sees(self.page.get_by_text("the anemone is open"))
        self.sees(self.page.get_by_role("img", name="Picture of the visit"))
        self.button("Add to the record").click()
        self.sees(self.page.get_by_text("in the record"))
        self.button("Undo").click()
        self.sees(self.button("Add to the record"))

    def test_taken_away_the_page_is_gone(self) -> None:
        address = self.told()
        page = self.carer(address)
        self.button("remove the link").click()
        self.sees(self.button("Create the carer's page"))
        page.reload()
        expect(page.get_by_text("there is no hand-over under this address")).to_be_visible()


class Nothing(WebTest):
    empty = True

    def test_it_says_what_to_do_first(self) -> None:
        self.open("/rota/time", "Rota")
        self.page.get_by_label("First day").fill("2099-01-01")
        self.page.get_by_label("Last day").fill("2099-01-02")
        self.button("Add absence").click()
        self.page.get_by_role("link", name="hand over to a carer").click()
        self.sees(self.page.get_by_text("There is nothing to hand over yet."))
