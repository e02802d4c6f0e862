"""The desk's own reading: names, stacks, rules, keyboards, and what is wrong in its files."""

import shutil
import tempfile
from datetime import date, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import olive_compass
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.sharing.sameness import days_before, practice
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk import tallies
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import app_file, desk_file, seat_file, system_file, tally_file
from olive_compass.desk.keyboards import load_form, load_layout, names
from olive_compass.desk.paths import find_root
from olive_compass.errors import UserError

DEMO = Path(olive_compass.__file__).parent / "data" / "demo"


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    return Desk(str(shutil.copytree(DEMO, tmp_path / "desk")))


def test_the_demo_shows_every_rule(desk: Desk) -> None:
    rules = {name: desk.app(name).rules for name in desk.app_names()}
    assert {each.duplicates for each in rules.values()} >= {"choice", "replace", "first-wins"}
    assert {each.can_mute for each in rules.values()} == {True, False}
    assert any(each.swipes for each in rules.values())
    assert any(each.reserved for each in rules.values())
    assert any(each.unlisted for each in rules.values())
    assert any(each.slots for each in rules.values())
    assert any(each.most_keys for each in rules.values())
    assert any(each.text_modes for each in rules.values())
    marks = {
        mark for name in rules for c in desk.app(name).catalogue.commands for mark in c.marks.words
    }
    assert {"often", "irreversible", "withdrawn", "never", "needs:varnish"} <= marks
    for name in rules:
        commands = desk.app(name).catalogue.commands
        assert 80 <= len(commands) <= 200
        assert not desk.app(name).catalogue.unreadable
        assert all(mode in desk.app(name).modes for command in commands for mode in command.modes)


def test_applications_are_named_by_beginning_and_title(desk: Desk) -> None:
    for typed in ("quillmap", "quill", "Quillmap", "QUILLMAP", "q"):
        assert desk.app_name(typed) == "quillmap"
    for typed, hint in (("qillmap", "Did you mean quillmap?"), ("x", "There is ")):
        with pytest.raises(UserError) as refused:
            desk.app_name(typed)
        assert hint in refused.value.hint
    shutil.copytree(Path(desk.root) / "apps/quillmap", Path(desk.root) / "apps/quillpen")
    with pytest.raises(UserError, match="quillmap or quillpen"):
        desk.app_name("quill")


def test_a_desk_is_found_from_within_and_not_from_without(desk: Desk, tmp_path: Path) -> None:
    assert find_root(str(Path(desk.root) / "apps" / "quillmap")) == desk.root
    with pytest.raises(UserError, match="no desk"):
        find_root(str(tmp_path))


def test_stacks_follow_the_desk_file_or_else_the_layers(desk: Desk) -> None:
    assert [s.name for s in desk.stack("quillmap").schemes] == ["house"]
    text = '\nformat = "olive-compass-scheme/1"\nlayer = "{}"\n'
    for name, layer in (("b", "personal"), ("a", "personal"), ("z", "project")):
        path = Path(desk.root) / f"schemes/foldpress/{name}.toml"
        path.parent.mkdir(exist_ok=True)
        path.write_text(text.format(layer).lstrip())
    assert [s.name for s in Desk(desk.root).stack("foldpress").schemes] == ["z", "a", "b"]
    wrong = Path(desk.root) / "schemes/foldpress/a.toml"
    wrong.write_text('format = "olive-compass-scheme/1"\napp = "quillmap"\n')
    with pytest.raises(UserError) as refused:
        Desk(desk.root).stack("foldpress")
    assert (refused.value.file, refused.value.line) == ("schemes/foldpress/a.toml", 2)


def test_system_keys_are_switched_on_and_off(desk: Desk) -> None:
    assert key("Alt+Tab") in desk.system_keys
    assert key("Ctrl+Escape") not in desk.system_keys
    data = b'format = "olive-compass-system/1"\n[keys]\n"Crtl+X" = "x"\n"F1" = { of = false }\n'
    with pytest.raises(UserError) as refused:
        system_file.read(data, "system.toml")
    assert refused.value.line == 3
    assert "Line 4" in refused.value.what


@pytest.mark.parametrize(
    ("rules", "line", "says"),
    [
        ("duplicates = 'both'", 3, "one of choice, first-wins"),
        ("longest-sequence = 0", 3, "1 or more"),
        ("longest-sequence = true", 3, "1 or more strokes"),
        ("typed-sequences = 1", 3, "wrong kind"),
        ("modifiers = ['Ctlr']", 3, "“Ctlr” is none of"),
        ("plain-keys = 'some'", 3, "one of all, named, none"),
        ("text-modes = ['nowhere']", 3, "no mode"),
        ("wiat = 1", 3, "did you mean “wait”?"),
        ("\n[swipes]\neverywhere = 17", 5, "2 to 16 directions, not 17"),
        ("\n[swipes]\nnowhere = 4", 5, "no mode"),
        ("\n[reserved]\n'Crtl+X' = 'x'", 5, "did you mean Ctrl+X?"),
    ],
)
def test_rules_that_are_none_are_refused_with_their_line(rules: str, line: int, says: str) -> None:
    data = f'format = "olive-compass-app/1"\n[rules]\n{rules}\n'.encode()
    with pytest.raises(UserError) as refused:
        app_file.read(data, "app.toml", "app")
    assert refused.value.line == line
    assert says in str(refused.value)


def test_an_application_is_called_as_its_file_says_or_else_by_its_name() -> None:
    text = b'format = "olive-compass-app/1"\n'
    assert app_file.read(text, "app.toml", "loom").title == "loom"
    assert app_file.read(text + b'title = "Loom"\n', "app.toml", "loom").title == "Loom"


def test_desk_files_are_edited_in_place() -> None:
    data = desk_file.new_text(desk_file.DeskFile(name="My “desk”"))
    assert desk_file.read(data, "desk.toml").name == "My “desk”"
    edited = desk_file.with_stack(data, "app", ("a", "b"))
    edited = desk_file.with_project(edited, "harbour")
    after = desk_file.read(edited, "desk.toml")
    assert (after.stacks["app"], after.project) == (("a", "b"), "harbour")
    assert b"# The active schemes" in edited
    keyless = b'format = "olive-compass-desk/1"\n'
    assert desk_file.read(desk_file.with_stack(keyless, "a", ("x",)), "").stacks == {"a": ("x",)}
    seat = seat_file.with_values(None, {"name": "Klara", "keyboards": ["iso-105/uk"], "hand": ""})
    seat = seat_file.with_value(seat, "licences.app", "sky", True)
    read = seat_file.read(seat)
    assert (read.name, read.keyboards, read.licences) == (
        "Klara",
        ("iso-105/uk",),
        {"app": {"sky": True}},
    )


def test_figures_of_effort_and_severities_are_read() -> None:
    text = b'format = "olive-compass-desk/1"\n[effort]\nhard = 9\nleft-ring = 2\n[severities]\nslip = "off"\n'
    settings = desk_file.read(text, "")
    assert (settings.weights.hard, settings.weights.fingers["left-ring"]) == (9, 2)
    assert settings.weights.span == desk_file.DeskFile(name="").weights.span
    assert settings.severities == {"slip": "off"}
    for wrong in (b"[effort]\nhadr = 9\n", b'[severities]\nslip = "loud"\n', b"[stacks]\na = 3\n"):
        with pytest.raises(UserError):
            desk_file.read(b'format = "olive-compass-desk/1"\n' + wrong, "")


def test_forms_and_layouts_of_ones_own(desk: Desk) -> None:
    folder = Path(desk.root) / "keyboards"
    (folder / "forms").mkdir(parents=True)
    (folder / "forms/small.toml").write_text(
        "format = \"olive-compass-form/1\"\nrows = '''\n0 KeyA KeyB*1.5\n1 Space*3\n'''\n"
    )
    assert list(load_form(desk.root, "small").seats) == ["KeyA", "KeyB", "Space"]
    assert "small" in names(desk.root, "forms")
    for rows, says in (
        ("0 KeyA KeyA", "appears twice"),
        ("0 KeyA*x", "no number"),
        ("x KeyA", "no number"),
    ):
        (folder / "forms/bad.toml").write_text(
            f"format = \"olive-compass-form/1\"\nrows = '''\n{rows}\n'''\n"
        )
        with pytest.raises(UserError, match=says):
            load_form(desk.root, "bad")
    (folder / "layouts").mkdir()
    (folder / "layouts/bad.toml").write_text(
        "format = \"olive-compass-layout/1\"\nkeys = '''\nKeyA a b c d e\n'''\n"
    )
    with pytest.raises(UserError, match="more than four levels"):
        load_layout(desk.root, "bad")
    for name in ("../desk", "nowhere", ""):
        with pytest.raises(UserError, match="no keyboard"):
            load_form(desk.root, name)


WAYS = st.sampled_from([("key", "Ctrl+S"), ("menu", ""), ("follows", ""), ("key", "F7")])
DAYS_ON = st.dates(min_value=date(2026, 3, 1), max_value=date(2026, 11, 30))


@given(st.lists(st.tuples(DAYS_ON, WAYS, st.sampled_from(["Ivo", "Klara"])), max_size=30))
def test_what_was_pressed_of_late_is_found_without_the_tallies_of_before(
    rows: list[tuple[date, tuple[str, str], str]],
) -> None:
    tally = {
        Use(
            log="a",
            seat=seat,
            day=day.isoformat(),
            app="quillmap",
            mode="",
            command="save",
            how=how,
            key=key_,
            after="",
        ): Count(times=n, undone=0, first=day.isoformat(), last=day.isoformat())
        for n, (day, (how, key_), seat) in enumerate(rows, 1)
    }
    with tempfile.TemporaryDirectory() as folder:
        Path(folder, "desk.toml").write_bytes((DEMO / "desk.toml").read_bytes())
        Path(folder, "tallies").mkdir()
        for path, own in tally_file.by_file(tally).items():
            Path(folder, path).write_bytes(tally_file.write(own))
        late = tallies.tally_since(Desk(folder), days_before)
        assert practice(late) == practice(tallies.whole_tally(Desk(folder)))
        if last := practice(late).last:
            # Nothing is read of a week that ended before the days that are asked for.
            begin = (date.fromisoformat(days_before(last)) - timedelta(days=7)).isoformat()
            assert not [use for use in late if use.day < begin]
