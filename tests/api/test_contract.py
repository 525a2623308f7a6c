"""Any input that the API's own description allows, and much that it does not: an answer or a problem, never a fault."""

from __future__ import annotations

import json
import logging
import warnings
from itertools import count

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from salttide.core.overview.handover import HandOverRequest
from salttide.store import handover as handover_store
from salttide.store import rota as rota_store
from tests.api.base import NOW, ApiTest

JSON = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**6), 10**6) | st.floats(allow_nan=False) | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
REAL = {
    "system_id": 1,
    "alarm_id": 1,
    "run_id": 1,
    "task": "tools",
    "number": 1,
    "entry_id": 5,
    "command": "demo-1-00003",
    "rule": "floor",
    "check_id": 1,
    "animal_id": 1,
    "salt_id": 1,
    "item_id": 1,
    "table": "food",
    "picture_id": 1,
    "step_id": 1,
    "batch_id": 1,
    "container_id": 1,
    "event_id": 1,
    "item": "towels",
    "part": "lamp",
    "token": "of-a-carer",
    "parameter": "alkalinity",
    "cause": "ion_low.alkalinity",
    "case_id": 1,
    "key": "too_hot",
    "programme": "cyanobacteria",
}
KEYS = count(1)
FEW = settings(
    max_examples=6, deadline=None, phases=[Phase.generate], derandomize=True, suppress_health_check=list(HealthCheck)
)


class Contract(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)
        warnings.simplefilter("ignore")
        with self.app.state.database.write() as connection:
            away = rota_store.add_away(connection, rota_store.Away(0, NOW.date(), NOW.date()), "contract-away")
            handover_store.save_hand_over(connection, away, HandOverRequest(phone="+45 00 00 00 01"))
            connection.execute("UPDATE hand_over SET token = ?", (REAL["token"],))

    def assert_sound(self, answer, what: str) -> None:
        self.assertLess(answer.status_code, 500, f"{what}: {answer.text[:300]}")
        if answer.status_code >= 400:
            self.assertIn("application/problem+json", answer.headers["content-type"], what)
            self.assertTrue(json.loads(answer.text)["detail"], what)

    def test_generated_from_the_description(self):
        schema = schemathesis.openapi.from_asgi("/openapi.json", self.app)
        for result in schema.get_all_operations():
            operation = result.ok()
            with self.subTest(path=operation.path, method=operation.method):
                self.try_described(operation)

    def try_described(self, operation) -> None:
        @FEW
        @given(case=operation.as_strategy(), known=st.booleans())
        def try_it(case, known):
            if known:
                case.path_parameters = {name: REAL[name] for name in case.path_parameters or {}}
            headers = {**(case.headers or {}), "Idempotency-Key": f"contract-{next(KEYS)}"}
            self.assert_sound(case.call(headers=headers), f"{operation.method} {operation.path}")

        try_it()

    def test_bodies_of_any_other_kind(self):
        for path, methods in self.app.openapi()["paths"].items():
            for method in set(methods) & {"post", "put"}:
                with self.subTest(path=path, method=method):
                    self.try_anything(method.upper(), path.format(**REAL))

    def try_anything(self, method: str, url: str) -> None:
        @FEW
        @given(body=JSON)
        def try_it(body):
            headers = {"Idempotency-Key": f"contract-{next(KEYS)}"}
            self.assert_sound(self.api.request(method, url, json=body, headers=headers), url)

        try_it()
