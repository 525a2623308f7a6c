"""The house: who may import whom, sizes that a person can hold in the head, and no address of a registry."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
import tomllib
import unittest
from pathlib import Path
from string import Formatter

ROOT = Path(__file__).resolve().parent.parent
PACKAGE = ROOT / "salttide"

# What each floor may import of the others, and of the outside.
MAY = {
    "core": set(),
    "store": {"core"},
    "household": {"core", "store", "faults"},
    "files": {"core", "store"},
    "api": {"core", "store", "household", "files", "clock", "faults", "guard", "delivery"},
    "fishroom": set(),
    "demo": {"core", "store", "household", "files", "fishroom"},
}
MAY_NOT_OUTSIDE = {
    "core": {"fastapi", "pydantic", "sqlite3", "random", "time", "os", "uvicorn"},
    "store": {"fastapi", "pydantic", "uvicorn"},
    "household": {"fastapi", "pydantic", "uvicorn"},
    "files": {"fastapi", "pydantic", "sqlite3", "uvicorn"},
    "fishroom": {"fastapi", "pydantic", "sqlite3", "time", "os"},
}


def modules(floor: str) -> list[Path]:
    return sorted((PACKAGE / floor).rglob("*.py"))


def imported(path: Path) -> set[str]:
    """Full names of what a module imports, relative imports resolved."""
    here = path.relative_to(ROOT).with_suffix("").parts
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            base = ".".join(here[: len(here) - node.level]) if node.level else ""
            full = ".".join(part for part in (base, node.module) if part)
            names |= {full} | {f"{full}.{alias.name}" for alias in node.names}
    return names


class Floors(unittest.TestCase):
    def test_each_floor_imports_only_what_lies_below_it(self):
        for floor, allowed in MAY.items():
            for path in modules(floor):
                own = {name.split(".")[1] for name in imported(path) if name.startswith("salttide.")}
                with self.subTest(module=str(path.relative_to(ROOT))):
                    self.assertLessEqual(own, allowed | {floor})

    def test_nobody_imports_the_api_but_the_app(self):
        users = [path for path in PACKAGE.rglob("*.py") if any("salttide.api" in name for name in imported(path))]
        outside = {path.relative_to(PACKAGE).parts[0] for path in users} - {"api"}
        self.assertEqual(outside, {"app.py"})

    def test_the_core_knows_no_framework_no_database_no_clock_and_no_chance(self):
        for floor, forbidden in MAY_NOT_OUTSIDE.items():
            for path in modules(floor):
                if floor == "fishroom" and path.name == "probes.py":
                    continue
                tops = {name.split(".")[0] for name in imported(path)}
                with self.subTest(module=str(path.relative_to(ROOT))):
                    self.assertEqual(tops & forbidden, set())

    def test_the_core_never_asks_what_time_it_is(self):
        for path in modules("core"):
            with self.subTest(module=path.name):
                self.assertNotRegex(path.read_text("utf-8"), r"\.(now|today|utcnow)\(\)")


PACKAGES = (
    "basics",
    "science",
    "system",
    "ledger",
    "estimate",
    "upkeep",
    "judgement",
    "trouble",
    "planning",
    "failure",
    "remedy",
    "programme",
    "runbook",
    "alarm",
    "overview",
    "jot",
)
"""The packages of the core: each may import those before it."""


class Core(unittest.TestCase):
    def test_every_module_stands_in_a_package_and_no_arrow_runs_back_up(self):
        folders = {path.name for path in (PACKAGE / "core").iterdir() if (path / "__init__.py").is_file()}
        self.assertEqual(folders, {*PACKAGES})
        self.assertEqual([path.name for path in (PACKAGE / "core").glob("*.py")], ["__init__.py"])
        for path in modules("core"):
            here = path.relative_to(PACKAGE / "core").parts[0]
            below = {*PACKAGES[: PACKAGES.index(here) + 1]} if here in PACKAGES else {*PACKAGES}
            used = {name.split(".")[2] for name in imported(path) if name.startswith("salttide.core.")}
            with self.subTest(module=str(path.relative_to(ROOT))):
                self.assertLessEqual(used, below)

    def test_no_module_imports_itself_by_way_of_others(self):
        paths = {".".join(path.relative_to(ROOT).with_suffix("").parts): path for path in PACKAGE.rglob("*.py")}
        arrows = {name: imported(path) & {*paths} - {name} for name, path in paths.items()}
        while free := {name for name, used in arrows.items() if not used & {*arrows}}:
            arrows = {name: used for name, used in arrows.items() if name not in free}
        self.assertEqual(sorted(arrows), [])


def docstrings(tree: ast.AST) -> set[int]:
    bodies = [node.body for node in ast.walk(tree) if isinstance(getattr(node, "body", None), list)]
    return {id(one.value) for body in bodies for one in body if isinstance(one, ast.Expr)}


def literal(node: ast.AST) -> str:
    """What a text says by itself, without what is put into it; empty for what is no text."""
    if isinstance(node, ast.JoinedStr):
        return "".join(part.value for part in node.values if isinstance(part, ast.Constant))
    return node.value if isinstance(node, ast.Constant) and isinstance(node.value, str) else ""


class Phrases(unittest.TestCase):
    """English stands in the core and in its data files: another language is another folder of them."""

    # What machines read, and what FastAPI and the page of a problem are told once.
    TECHNICAL = (
        "text/csv",
        "text/calendar",
        "attachment; filename",
        "<!doctype",
        "Made by the client",
        "The 'alias'",
        " µmol",
    )

    def test_no_router_and_no_store_writes_a_sentence(self) -> None:
        for path in modules("api"):
            tree = ast.parse(path.read_text("utf-8"))
            told = docstrings(tree)
            texts = [literal(node) for node in ast.walk(tree) if id(node) not in told]
            found = {text for text in texts if " " in text.strip() and re.search(r"[a-z]{2}", text)}
            joined = [literal(node) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr)]
            found |= {text for text in joined if " " in text and re.search(r"[A-Za-z]{3}", text)}
            with self.subTest(module=path.name):
                self.assertEqual({text for text in found if not text.startswith(self.TECHNICAL)}, set())

    def test_every_phrase_exists_is_used_and_gets_its_parts(self) -> None:
        used, tables = dict[str, list[set[str]]](), set[str]()
        for path in PACKAGE.rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Name):
                    continue
                if node.func.id == "refused":
                    about = {str(part.arg) for part in node.keywords} - {"takes"}
                    used.setdefault(literal(node.args[0]), []).append(about)
                    for accepted in node.args[2:]:
                        used.setdefault(literal(accepted), []).append(set())
                if node.func.id not in ("phrase", "phrases", "named") or not node.args:
                    continue
                first = node.args[0]
                for key in [first.body, first.orelse] if isinstance(first, ast.IfExp) else [first]:
                    if node.func.id == "phrase" and isinstance(key, ast.Constant):
                        used.setdefault(key.value, []).append({str(part.arg) for part in node.keywords})
                    elif literal(key).strip("."):
                        tables.add(literal(key).strip("."))
        texts = dict(each for path in (PACKAGE / "core/data/phrases").glob("*.toml") for each in phrases_of(path))
        for key, calls in used.items():
            with self.subTest(key=key):
                parts = {name for _, name, _, _ in Formatter().parse(texts[key]) if name}
                self.assertEqual([call for call in calls if call != parts], [])
        loose = {key for key in texts if key not in used and not key.startswith(tuple(tables))}
        self.assertEqual(loose, set())


def phrases_of(path: Path) -> list[tuple[str, str]]:
    found = []
    for key, text in tomllib.loads(path.read_text("utf-8")).items():
        if isinstance(text, dict):
            found += [(f"{path.stem}.{key}.{name}", each) for name, each in text.items()]
        else:
            found.append((f"{path.stem}.{key}", text))
    return found


class Rules(unittest.TestCase):
    """Routers hold no rule of the job: they compute nothing of water, and no table of its constants."""

    QUANTITY = re.compile(
        r"(^|_)(l|ml|g|kg|cm|meq|ppm|ph)$|(litres|salinity|alkalinity|strength|purity|share|fraction|rise|dose|swing)$"
        r"|(volume|amount|grams|per_day|saturation)$"
    )

    def test_no_router_computes_with_water(self) -> None:
        for path in [*modules("api"), *modules("household")]:
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                if not isinstance(node, ast.BinOp) or isinstance(node.op, (ast.BitOr, ast.BitAnd, ast.Mod)):
                    continue
                if any(isinstance(side, (ast.List, ast.ListComp, ast.JoinedStr)) for side in (node.left, node.right)):
                    continue
                names = {getattr(each, "attr", getattr(each, "id", "")) for each in ast.walk(node)}
                with self.subTest(module=path.name, line=node.lineno):
                    self.assertEqual({name for name in names if self.QUANTITY.search(name)}, set())

    def test_no_router_keeps_a_table_of_parameters_or_a_measure(self) -> None:
        for path in modules("api"):
            for node in ast.parse(path.read_text("utf-8")).body:
                if not isinstance(node, ast.Assign):
                    continue
                names = {getattr(each, "id", "") for each in ast.walk(node.value)}
                measured = [each.value for each in ast.walk(node.value) if isinstance(each, ast.Constant)]
                with self.subTest(module=path.name, line=node.lineno):
                    self.assertNotIn("Parameter", names)
                    self.assertFalse([value for value in measured if isinstance(value, float)])


class Sizes(unittest.TestCase):
    def test_modules_and_functions_can_be_held_in_the_head(self):
        for path in PACKAGE.rglob("*.py"):
            text = path.read_text("utf-8")
            with self.subTest(module=str(path.relative_to(ROOT))):
                self.assertLessEqual(len(text.splitlines()), 420)
                for node in ast.walk(ast.parse(text)):
                    if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                        self.assertLessEqual((node.end_lineno or 0) - node.lineno, 39, node.name)

    def test_pages_are_short(self):
        for path in (ROOT / "web" / "src").rglob("*.vue"):
            script = re.search(r"<script.*?</script>", path.read_text("utf-8"), re.S)
            with self.subTest(part=path.name):
                self.assertLessEqual(len(script.group(0).splitlines()) if script else 0, 100)


class Documented(unittest.TestCase):
    def test_every_public_name_of_core_and_store_says_what_it_is(self):
        for path in [*modules("core"), *modules("store")]:
            for node in ast.parse(path.read_text("utf-8")).body:
                public = isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_")
                if public:
                    with self.subTest(name=f"{path.name}:{node.name}"):
                        self.assertTrue(ast.get_docstring(node))


class Locks(unittest.TestCase):
    def test_they_pin_versions_with_hashes_and_hold_no_address(self):
        for name in ("requirements.txt", "requirements-dev.txt"):
            text = (ROOT / name).read_text("utf-8")
            self.assertNotIn("://", text)
            pins = [line for line in text.splitlines() if line and not line.startswith((" ", "#"))]
            self.assertTrue(all("==" in pin for pin in pins))
            self.assertGreaterEqual(text.count("--hash=sha256:"), len(pins))
        self.assertNotIn('"resolved"', (ROOT / "web" / "package-lock.json").read_text("utf-8"))

    def test_every_package_that_it_runs_on_or_ships_stands_with_its_licence(self):
        page = (ROOT / "docs" / "licences.md").read_text("utf-8")
        pins = re.findall(r"^([\w.-]+)==[^;]*?(; .*)?\\$", (ROOT / "requirements.txt").read_text("utf-8"), re.MULTILINE)
        for name in (name for name, marker in pins if "win32" not in marker):
            with self.subTest(package=name):
                self.assertRegex(page, rf"\| {re.escape(name)} \| [A-Z0-9]")
        self.assertGreater(len(pins), 20)
        shipped = (ROOT / "web" / "dist" / "licences.txt").read_text("utf-8")
        for name in ("vue", "vuetify", "@fontsource-variable/source-sans-3", "d3-scale"):
            with self.subTest(package=name):
                self.assertRegex(shipped, rf"(?m)^{name} \d")
        self.assertIn("SIL OPEN FONT LICENSE", shipped.upper())
        self.assertIn("MIT License", (ROOT / "LICENSE").read_text("utf-8"))

    def test_screenshots_are_linked_from_the_readme(self):
        readme = (ROOT / "README.md").read_text("utf-8")
        for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
            with self.subTest(picture=picture.name):
                self.assertIn(f"docs/screenshots/{picture.name}", readme)


class Start(unittest.TestCase):
    def test_heavy_libraries_are_loaded_by_what_needs_them_not_by_the_start(self):
        heavy = "{'numpy', 'gsw', 'scipy', 'pint', 'PIL', 'molmass'}"
        code = f"import sys, salttide.app; print(*sorted({heavy} & {{*sys.modules}}))"
        said = subprocess.run([sys.executable, "-c", code], cwd=ROOT, capture_output=True, text=True, check=True)
        self.assertEqual(said.stdout.split(), [])


class SecondStart(unittest.TestCase):
    def test_nothing_is_rebuilt_that_has_not_changed(self):
        for target in (".venv/run.stamp", "web/dist/build.stamp"):
            with self.subTest(target=target):
                said = subprocess.run(["make", "--question", target], cwd=ROOT, capture_output=True, check=False)
                self.assertEqual(said.returncode, 0)

    def test_the_readmes_two_commands_exist(self):
        makefile = (ROOT / "Makefile").read_text("utf-8")
        for target in ("demo", "test", "check", "bench", "serve"):
            self.assertRegex(makefile, rf"(?m)^{target}:")
