"""What goes wrong is described: a kind with a page for every error, and operations that clients can name."""

from __future__ import annotations

from collections.abc import Iterator

from salttide.core.basics.errors import SaltTideError
from salttide.core.basics.phrases import phrases
from salttide.core.jot.reader import JotError
from tests.api.base import ApiTest
from tests.api.described import description


def kinds(of: type[SaltTideError]) -> Iterator[type[SaltTideError]]:
    for each in of.__subclasses__():
        yield each
        yield from kinds(each)


class Problems(ApiTest):
    def test_every_error_has_a_page_that_says_what_it_means(self) -> None:
        self.assertEqual(JotError.code, "jot")
        titles = phrases("problems.title")
        # Faults of the program's own data never reach a client by their kind.
        for code in {each.code for each in kinds(SaltTideError)} - {"data"}:
            with self.subTest(code=code):
                self.assertIn(code, titles)
        for code, title in titles.items():
            with self.subTest(code=code):
                answer = self.api.get(f"/problems/{code}")
                self.assertEqual(
                    (answer.status_code, answer.headers["content-type"]), (200, "text/html; charset=utf-8")
                )
                self.assertIn(f"<h1>{title}</h1>", answer.text)
        self.assertEqual(self.api.get("/problems/nothing").status_code, 404)

    def test_the_type_of_a_problem_leads_to_its_page(self) -> None:
        for path in ("/api/systems/99/sheet", "/api/nowhere", "/api/systems/1/sheet?back=x"):
            with self.subTest(path=path):
                kind = self.api.get(path).json()["type"]
                self.assertEqual(self.api.get(kind).status_code, 200)

    def test_operations_have_names_of_their_own_and_say_how_they_fail(self) -> None:
        operations = [each for ways in description()["paths"].values() for each in ways.values()]
        names = [each["operationId"] for each in operations]
        self.assertEqual(len(names), len({*names}))
        for each in operations:
            with self.subTest(operation=each["operationId"]):
                self.assertRegex(each["operationId"], r"^[a-z_]+$")
                self.assertLessEqual({"400", "404", "409", "413", "415", "422", "default"}, {*each["responses"]})

    def test_no_two_schemas_are_told_apart_by_the_module_they_stand_in(self) -> None:
        for name in description()["components"]["schemas"]:
            self.assertNotIn("__", name)
