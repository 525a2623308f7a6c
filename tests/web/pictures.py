"""Make the pictures of docs/screenshots from the demo data: `make pictures`, or one by name."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

from tests.stage import PHONE, ROOT, WIDE, Server, open_context

FOLDER = ROOT / "docs" / "screenshots"


def harbour(page: Any, url: str) -> None:
    page.goto(url)
    page.get_by_text("Slipway").first.wait_for()


def sheet(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/sheet")
    page.get_by_text("Next").first.wait_for()
    page.locator("figure svg").first.wait_for()


def plan(page: Any, url: str) -> None:
    """What can be done about a cause."""
    page.goto(f"{url}/systems/1/plan/ion_low.alkalinity")
    page.get_by_role("img", name="Alkalinity: with it").wait_for()
    page.wait_for_load_state("networkidle")


def dosing(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/dosing")
    page.get_by_text("Every day 12").wait_for()


def failures(page: Any, url: str) -> None:
    """The board, with one failure's numbers open."""
    page.goto(f"{url}/systems/1/failures")
    page.get_by_role("button", name="The power fails").click()
    page.get_by_role("button", name="8 hours").wait_for()


def top_off(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/top-off")
    page.get_by_role("heading", name="What stops it").wait_for()
    page.wait_for_load_state("networkidle")


def fresh_water(page: Any, url: str) -> None:
    page.goto(f"{url}/fresh-water")
    page.get_by_role("heading", name="Needed in two weeks").wait_for()
    page.wait_for_load_state("networkidle")


def alarms(page: Any, url: str) -> None:
    page.goto(f"{url}/alarms")
    page.get_by_role("heading", name="Who is told").wait_for()
    page.wait_for_load_state("networkidle")


def programme(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/3/programmes/cyanobacteria")
    page.get_by_role("region", name="Week by week").wait_for()
    page.wait_for_load_state("networkidle")


def what_if(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/what-if")
    page.get_by_label("Minutes a month").fill("400")
    page.get_by_role("button", name="Find").click()
    page.get_by_role("button", name="Compare it").click()
    page.get_by_text("1 d outside").first.wait_for()


def bench(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/bench")
    for name, text in (("temperature", "25.3"), ("salinity", "34.4"), ("alkalinity", "7.1"), ("calcium", "4150")):
        page.locator(f"#value-{name}").fill(text)
        page.keyboard.press("Enter")
    page.get_by_text("is not possible here").wait_for()


def change(page: Any, url: str) -> None:
    """Nitrate brought down in several changes."""
    page.goto(f"{url}/systems/1/change")
    page.get_by_text("What it takes").wait_for()
    page.get_by_label("Purpose").select_option("bring")
    page.get_by_label("Target", exact=True).fill("5")
    page.get_by_text("% of the old water is left").wait_for()
    page.wait_for_load_state("networkidle")


def mix(page: Any, url: str) -> None:
    """One batch for two systems, and one that stands ready."""
    page.goto(f"{url}/mix")
    page.get_by_role("checkbox", name="Beacon").check()
    page.get_by_label("Salinity for Skiff").fill("33.5")
    page.get_by_role("checkbox", name="calcium").check()
    page.get_by_text("When it is poured").wait_for()
    # What was typed last is worked out after a moment.
    page.wait_for_timeout(1500)


def rota(page: Any, url: str) -> None:
    page.goto(f"{url}/rota")
    page.locator("button.task:visible").first.wait_for()


def emergency(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/emergency/leak")
    page.get_by_role("heading", name="Do not").wait_for()
    page.wait_for_load_state("networkidle")


def trouble(page: Any, url: str) -> None:
    """What the record knows set aside, so that the drawings show."""
    page.goto(f"{url}/systems/2/trouble")
    for answer in ("slimy strings or strands", "brown or golden"):
        page.get_by_role("button", name=f"Take back: {answer}").click()
    page.get_by_role("heading", name="What does it look like?").wait_for()
    page.wait_for_load_state("networkidle")


def log(page: Any, url: str) -> None:
    page.goto(f"{url}/log?import")
    table = "Date;Time;KH;Ca;NO3\n24.10.2026;18:30;8,1;412;5,2\n25.10.2026;07:15;8,0;;4,9\n26.10.2026;19:00;abc;415;\n"
    file = {"name": "notepad.csv", "mimeType": "text/csv", "buffer": table.encode()}
    page.locator("input[type=file]").set_input_files(files=[file])
    page.get_by_label("System of all rows").select_option("Beacon")
    page.get_by_label("Dates are written").select_option("dmy")
    page.get_by_label("Decimals have a").select_option(",")
    page.get_by_role("button", name="Check the file").click()
    page.get_by_text("with line and reason").click()


def setup(page: Any, url: str) -> None:
    page.goto(f"{url}/systems/1/setup")
    page.get_by_text("L net").first.wait_for()
    for part in ("Size", "Livestock"):
        page.get_by_role("button", name=part).click()


def runbook(page: Any, url: str) -> None:
    """Draining, with corals in the air and a heater that cools meanwhile."""
    page.goto(f"{url}/systems/1/change")
    page.get_by_text("What it takes").wait_for()
    page.get_by_role("button", name="Start at the tank").click()
    page.get_by_role("heading", name="Set out what you need").wait_for()
    page.get_by_role("button", name="All at hand").click()
    page.get_by_role("heading", name="Look first").wait_for()
    page.get_by_role("button", name="Done").click()
    for name, text in (("Temperature", "25.2"), ("Salinity", "36.1"), ("Alkalinity", "8.5")):
        page.get_by_label(name, exact=True).fill(text)
        page.keyboard.press("Enter")
        page.wait_for_timeout(250)
    page.get_by_role("button", name="It matches").click()
    page.get_by_role("heading", name="Power off").wait_for()
    for box in page.get_by_role("checkbox").all():
        box.check()
        page.wait_for_timeout(150)
    page.get_by_role("button", name="All off").click()
    page.get_by_role("button", name="continue before it rings").click()
    page.get_by_label("Why it need not wait").fill("it was off since noon")
    page.get_by_role("button", name="Save the reason").click()
    page.wait_for_timeout(300)
    for word, heading in (("Cooled", "Wipe the salt creep"), ("Done", "Scrape the panels"), ("Done", "Drain to")):
        page.get_by_role("button", name=word).first.click()
        page.get_by_role("heading", name=heading).wait_for()
    page.get_by_role("button", name="Bucket emptied").click()
    page.get_by_role("button", name="In the air now").click()
    page.get_by_role("button", name="Covered again").wait_for()
    page.wait_for_timeout(1200)


PICTURES = {
    "harbour": (harbour, WIDE, False),
    "sheet": (sheet, WIDE, False),
    "plan": (plan, {"width": 1280, "height": 800}, True),
    "dosing": (dosing, {"width": 1280, "height": 960}, False),
    "failures": (failures, {"width": 1280, "height": 960}, False),
    "top-off": (top_off, WIDE, False),
    "fresh-water": (fresh_water, WIDE, False),
    "alarms": (alarms, WIDE, False),
    "programme": (programme, {"width": 1280, "height": 1000}, False),
    "what-if": (what_if, {"width": 1280, "height": 1500}, False),
    "bench": (bench, WIDE, False),
    "setup": (setup, WIDE, False),
    "change": (change, WIDE, False),
    "mix": (mix, {"width": 1280, "height": 900}, False),
    "rota": (rota, {"width": 1280, "height": 1000}, False),
    "emergency": (emergency, {"width": 1280, "height": 1000}, False),
    "trouble": (trouble, {"width": 1280, "height": 960}, False),
    "log": (log, WIDE, False),
    "runbook-phone": (runbook, PHONE, False),
}


def take(names: list[str], folder: Path = FOLDER, size: dict[str, int] | None = None) -> None:
    """Take the named pictures, each on a fresh copy of the demo data."""
    folder.mkdir(parents=True, exist_ok=True)
    for name in names:
        visit, usual, night = PICTURES[name]
        server = Server()
        context = open_context(size or usual, night)
        try:
            page = context.new_page()
            page.on("console", lambda message: print(message.type, message.text) if message.type == "error" else None)
            page.on("pageerror", lambda error: print("error", error))
            visit(page, server.url)
            page.wait_for_timeout(400)
            page.screenshot(path=str(folder / f"{name}.png"), animations="disabled")
        finally:
            context.close()
            server.stop()


if __name__ == "__main__":
    take(sys.argv[1:] or list(PICTURES))
