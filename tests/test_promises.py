"""What the project promises of itself: rooms, help, schemas, completion, documents."""

import argparse
import ast
import csv
import graphlib
import importlib
import json
import pkgutil
import re
import subprocess
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path

import grimp
import jsonschema
import pytest
from msgspec import Struct

import olive_compass
from olive_compass import core
from olive_compass.cli.parsing import command_parser, in_order, with_verb
from olive_compass.cli.registry import GROUPS, command_module, command_names
from olive_compass.cli.terminal.action_lines import general_advice
from olive_compass.core.findings import kinds
from olive_compass.core.schemes import objections
from olive_compass.core.schemes.objections.kind import ASKED, REFUSED, SAID
from tests.conftest import ask_in, completions

ROOT = Path(__file__).parents[1]
DATA = Path(olive_compass.__file__).parent / "data"
#: What an everyday command does not load: each takes as long as half of one, or longer.
HEAVY = {
    "numpy",
    "pandas",
    "scipy",
    "matplotlib",
    "reportlab",
    "jinja2",
    "openpyxl",
    "prompt_toolkit",
    "rich",
    "distributed",
}


def test_rooms_keep_to_themselves() -> None:
    linter = Path(sys.executable).with_name("lint-imports")
    done = subprocess.run([str(linter)], cwd=ROOT, capture_output=True, text=True)
    assert done.returncode == 0, done.stdout


def test_every_command_has_a_group_a_summary_and_examples_that_parse() -> None:
    import shlex

    for name in command_names():
        module = command_module(name)
        assert module.GROUP in GROUPS, name
        assert module.SUMMARY[0].isupper(), name
        assert not module.SUMMARY.endswith("."), name
        for example in module.EXAMPLES.split("\n"):
            plain = example.removeprefix('eval "$(').removesuffix(')"')
            words = shlex.split(plain)
            words = words[: words.index(">")] if ">" in words else words
            assert words[:2] == ["olive-compass", name], example
            rest = with_verb(module, words[2:])
            parser = command_parser(name, module, rest)
            parser.parse_args(in_order(parser, rest))


def test_help_is_there_for_every_command_and_verb(tmp_path: Path) -> None:
    overview = ask_in(tmp_path, "help", "--all").out
    for name in command_names():
        assert f"  {name} " in overview
        assert "examples:" in ask_in(tmp_path, name, "--help").out
    for words in (["app", "import"], ["scheme", "show"], ["desk", "new"]):
        assert "examples:\n  olive-compass" in ask_in(tmp_path, *words, "--help").out
    assert ask_in(tmp_path, "--version").out.startswith("olive-compass 0.")


def test_every_argument_says_what_it_is_and_every_verb_has_an_example() -> None:
    def silent(parser: argparse.ArgumentParser) -> list[object]:
        verbs = [a for a in parser._actions if isinstance(a.choices, dict)]
        found: list[object] = [a for a in parser._actions if a.help is None and a not in verbs]
        for each in {id(p): p for a in verbs for p in a.choices.values()}.values():
            found += [] if "examples:" in (each.epilog or "") and each.description else [each.prog]
            found += silent(each)
        return found

    for name in command_names():
        assert silent(command_parser(name, command_module(name))) == [], name


def test_records_of_the_core_do_not_change() -> None:
    """What goes from one module to another is frozen; what is counted up stays in its own."""
    for info in pkgutil.walk_packages(core.__path__, "olive_compass.core."):
        for name, each in vars(importlib.import_module(info.name)).items():
            is_record = isinstance(each, type) and issubclass(each, Struct) and each is not Struct
            # Candidates know each other, and so are completed once all are there.
            if is_record and not name.startswith("_") and name != "Candidate":
                assert each.__struct_config__.frozen, f"{info.name}.{name}"


def test_everyday_commands_load_nothing_heavy(desk: Path) -> None:
    for words in (
        ["find", "split"],
        ["press", "quillmap", "S"],
        ["check"],
        ["free", "quillmap"],
        ["assign", "quillmap", "sheet.trim", "F10", "-n"],
        ["sheet", "quillmap"],
    ):
        # What files say is kept from then on: no parser is loaded for it.
        ask_in(desk, *words, "--quiet")
        script = (
            "import sys\nfrom olive_compass.cli.main import main\n"
            f"main({words!r})\nprint(*{{name.split('.')[0] for name in sys.modules}}, file=sys.stderr)"
        )
        done = subprocess.run(
            [sys.executable, "-c", script], cwd=desk, capture_output=True, text=True
        )
        assert HEAVY & set(done.stderr.split()) == set(), words


@pytest.mark.parametrize(
    "kind",
    [
        "desk",
        "app",
        "scheme",
        "form",
        "layout",
        "system",
        "macro",
        "keyset",
        "device",
        "fileformat",
        "seat",
        "trays",
    ],
)
def test_the_demo_files_fit_their_schemas(desk: Path, kind: str) -> None:
    if kind == "keyset":
        ask_in(desk, "keyset", "learn", "larkspur")
        ask_in(desk, "keyset", "set", "larkspur", "save", "Ctrl+S", "F2", "--why", "x")
    if kind == "seat":
        to = ("--to", "kiln/keys.kiln", "--file-format", "kiln", "--yes")
        assert ask_in(desk, "deliver", "reliefkiln", *to).status == 0
    if kind == "trays":
        ask_in(desk, "tray", "new", "quillmap/Harbour", "--kind", "tab", "--place", "before Edit")
        ask_in(desk, "tray", "add", "harbour", "Buoy", "-", "Wreck", "--group", "Lights")
        ask_in(desk, "tray", "new", "quillmap/Lately", "--kind", "ring", "--fill", "most", "5")
    if kind == "device":
        ask_in(desk, "desk", "device", "new", "console", "--grid", "2x2", "--faders", "F1")
    if kind == "macro":
        log = "logs/quillmap-2026-10-12.jsonl"
        ask_in(desk, "macro", "from-log", log, "quillmap/light")
        ask_in(desk, "macro", "ask", "quillmap/light", "3", "at")
        ask_in(desk, "macro", "note", "quillmap/light", "1", "why")
    schema = json.loads((ROOT / f"docs/formats/{kind}.schema.json").read_text())
    jsonschema.Draft202012Validator.check_schema(schema)
    pattern = {
        "desk": "desk.toml",
        "app": "apps/*/app.toml",
        "scheme": "schemes/*/*.toml",
        "system": "system.toml",
        "device": "devices/*.toml",
        "fileformat": "fileformats/*.toml",
        "seat": "seat.toml",
        "form": "forms/*.toml",
        "layout": "layouts/*.toml",
        "macro": "macros/*/*.toml",
        "keyset": "keysets/*.toml",
        "trays": "trays/*.toml",
    }[kind]
    files = sorted(desk.glob(pattern)) or sorted(DATA.glob(pattern))
    assert files
    for file in files:
        jsonschema.validate(tomllib.loads(file.read_text()), schema)
    pages = [ROOT / f"docs/formats/{kind}.md", *(ROOT / f"docs/{kind}{s}.md" for s in ("", "s"))]
    assert any(p.exists() and f'"olive-compass-{kind}/1"' in p.read_text() for p in pages)


def test_the_demo_logs_and_documents_fit_their_schemas(desk: Path) -> None:
    for kind, files in (("document", "documents/*/*.json"), ("log", "logs/*.jsonl")):
        schema = json.loads((ROOT / f"docs/formats/{kind}.schema.json").read_text())
        found = sorted(desk.glob(files))
        assert len(found) >= 3
        for file in found:
            text = file.read_text()
            for each in text.splitlines() if kind == "log" else [text]:
                jsonschema.validate(json.loads(each), schema)


def test_the_demo_catalogues_are_of_a_plausible_size(desk: Path) -> None:
    for app in ("quillmap", "tagwright"):
        with (desk / f"apps/{app}/commands.csv").open(newline="") as file:
            assert 80 <= len(list(csv.reader(file))) - 2 <= 200


def test_no_module_comes_back_to_itself_by_its_imports() -> None:
    """Imports within functions, and those that only a type checker reads, count as well."""
    graph = grimp.build_graph("olive_compass", cache_dir=None)
    below = {each: graph.find_modules_directly_imported_by(each) for each in graph.modules}
    graphlib.TopologicalSorter(below).prepare()


def test_every_objection_is_on_its_page() -> None:
    """In the order of severity, with what assign does about it."""
    page = (ROOT / "docs/objections.md").read_text()
    rows = re.findall(r"^\| ([a-z, ]+) \| [^|]+ \| (refuses|asks|says so)", page, re.MULTILINE)
    told = [(name.replace(" ", "-"), does) for names, does in rows for name in names.split(", ")]
    does = {REFUSED: "refuses", ASKED: "asks", SAID: "says so"}
    assert told == [(kind.id, does[kind.weight]) for kind in objections.kinds().values()]


def test_the_core_writes_no_command_lines() -> None:
    """What it proposes are actions; how they are typed is the matter of the command line."""
    written = [
        (path.name, text)
        for path in (ROOT / "src/olive_compass/core").rglob("*.py")
        for text in texts_of(ast.parse(path.read_text(encoding="utf-8")))
        if re.search(r"olive-compass |(^|\s)--[a-z]", text)
    ]
    assert written == []


def texts_of(tree: ast.Module) -> Iterator[str]:
    """The texts in a module that are no docstrings."""
    docstrings = {
        ast.get_docstring(node, clean=False)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)
    }
    for node in ast.walk(tree):
        text = node.value if isinstance(node, ast.Constant) else None
        if isinstance(text, str) and text not in docstrings:
            yield text


def test_findings_are_documented_from_their_own_source() -> None:
    page = (ROOT / "docs/findings.md").read_text()
    for id_, module in kinds().items():
        assert f"## {id_}" in page
        assert module.SAYS in page
        assert general_advice(module) in page


@pytest.mark.parametrize(
    ("line", "offered"),
    [
        ("olive-compass pre", "press"),
        ("olive-compass press quil", "quillmap"),
        ("olive-compass assign quillmap lines.sp", "lines.split"),
        ("olive-compass scheme show quillmap/m", "quillmap/mine"),
        ("olive-compass explain lost", "lost-last-key"),
        ("olive-compass press quillmap S --mode ver", "vertex"),
        ("olive-compass press quillmap Ctrl+Al", "Ctrl+Alt+"),
        ("olive-compass press quillmap Ctrl+F1", "Ctrl+F12"),
        ("olive-compass assign quillmap lines.split Ctrl+Sh", "Ctrl+Shift+"),
        ("olive-compass desk keyboard --layout ger", "german"),
        ("olive-compass desk keyboard --form iso-l", "iso-laptop"),
        ("olive-compass app rules quillmap --set most", "most-keys="),
        ("olive-compass usage ta", "take"),
        ("olive-compass usage quil", "quillmap"),
        ("olive-compass usage take logs --app quil", "quillmap"),
        ("olive-compass accept quillmap lost", "lost-last-key"),
        ("olive-compass check --keyboard iso-laptop/ger", "iso-laptop/german"),
        ("olive-compass compare quillmap/mi", "quillmap/mine"),
        ("olive-compass modes quillmap lines.split --only ver", "vertex"),
        ("olive-compass surprises quillmap --knows fac", "factory"),
        ("olive-compass fileformat show ki", "kiln"),
        ("olive-compass app mark quillmap lines.split --add of", "often"),
        ("olive-compass help keys", "keyset"),
    ],
)
def test_the_shell_completes(untouched: Path, line: str, offered: str) -> None:
    assert offered in completions(untouched, line)


def test_files_are_offered_only_where_one_is_meant(untouched: Path) -> None:
    assert completions(untouched, "olive-compass press quillmap S --mode desk") == []
    assert completions(untouched, "olive-compass app import Other --from listings/tag") != []
    assert "complete" in ask_in(untouched, "completion", "bash").out


BENCHMARKS = Path(__file__).parent.parent / "benchmarks"


@pytest.mark.parametrize(
    "path",
    [p for p in sorted(BENCHMARKS.glob("*.py")) if "\nUsage:" in p.read_text()],
    ids=lambda path: path.stem,
)
def test_every_benchmark_starts_and_uses_what_there_is(path: Path) -> None:
    """Nothing else runs them on every day: a name that changes in the program changes there, too."""
    module = importlib.import_module(f"benchmarks.{path.stem}")
    assert f"Usage: python -m benchmarks.{path.stem}" in (module.__doc__ or "")
    assert callable(module.main)
