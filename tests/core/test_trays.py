"""Trays: edits value to value, files that keep what was meant, verdicts, what fills itself, findings."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.actions import Action, ForgetThing, NoteSlot, ShowThrough
from olive_compass.core.apps.app import App, Catalogue, Command, Via
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.apps.tray_commands import command_of
from olive_compass.core.apps.trays import PARTING, Group, Tray, TrayKind
from olive_compass.core.changes import edit_tray as core
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import all_findings
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.recording import Event
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.sharing.cross_app import Across
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.sharing.trays import carried
from olive_compass.core.trays import editing
from olive_compass.core.trays.counting import counting, read_place
from olive_compass.core.trays.filling import filled
from olive_compass.core.trays.manual_steps import tray_steps
from olive_compass.core.trays.verdicts import of_new_item
from olive_compass.core.usage.counting import tally_of
from olive_compass.desk.formats.tray_file import edited, read
from olive_compass.structs import replace

COMMANDS = (
    Command(id="undo", title="Undo", menu=("Edit",), keys=(key("Ctrl+Z"),)),
    Command(id="buoy", title="Buoy", menu=("Draw",), keys=(key("B Y"),)),
    Command(id="wreck", title="Wreck", menu=("Draw",)),
    Command(id="plates", title="Make plates", menu=("Press",)),
    Command(id="old", title="Old", menu=("Help",), marks=read_marks({"withdrawn"})),
    Command(id="sky", title="Sky", menu=("Help",), marks=read_marks({"needs:sky"})),
    Command(id="view", title="View 3", menu=("&View",), access=("V", "3"), kind="slot"),
)
KINDS = {
    "tab": TrayKind(name="tab", most=2, items=4),
    "bar": TrayKind(
        name="bar", groups=False, icons=True, opens="view", refuses={"plates": "it lasts"}
    ),
    "ring": TrayKind(name="ring", opens="key", scan=2),
}


def tray(name: str = "day", kind: str = "tab", *items: str, **fields: object) -> Tray:
    groups = (Group("", items),) if items else ()
    return Tray(
        app="app",
        name=name,
        title=name.title(),
        layer="personal",
        kind=kind,
        groups=groups,
        **fields,
    )  # type: ignore[arg-type]


def app_with(*trays: Tray, **fields: object) -> App:
    own = tuple(command_of(each, KINDS.get(each.kind)) for each in trays)
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({"draw": "everywhere"}),
        rules=Rules(
            duplicates="replace",
            longest_sequence=3,
            typed_sequences=True,
            trays=KINDS,
            slots={"view": "Quay"},
        ),
        catalogue=Catalogue((*COMMANDS, *own)),
        trays=trays,
    )
    return replace(app, **fields)


def keymap_of(*trays: Tray, scheme: Scheme | None = None) -> Keymap:
    return Keymap(Stack(app_with(*trays), (scheme,) if scheme else ()), Keyboard("pc"))


def view_of(app: App, *schemes: Scheme, across: Across | None = None) -> AppView:
    return AppView(Stack(app, schemes), Keyboard("pc"), across=across)


ITEMS = st.sampled_from(["undo", "buoy", "wreck", "plates", "gone"])
TITLES = st.sampled_from(["", "Lights", "Depths", 'On "paper"', "é.x"])


@st.composite
def trays(draw: st.DrawFn, name: str = "day") -> Tray:
    titles = sorted(draw(st.lists(TITLES, unique=True)), key=bool)
    groups = []
    for title in titles:
        items = draw(st.lists(ITEMS | st.just(PARTING), max_size=5))
        if title or items:
            groups.append(Group(title, tuple(items)))
    return Tray(
        app="app",
        name=name,
        title=draw(st.sampled_from(["Day", "É [x]", "#1"])),
        layer=draw(st.sampled_from(["personal", "house", "project"])),
        kind=draw(st.sampled_from(["tab", "bar"])),
        groups=tuple(groups),
        place=draw(st.sampled_from(["first", "last", "before Edit"])),
        off=draw(st.booleans()),
        why=draw(st.sampled_from(["", "because"])),
        letter=draw(st.sampled_from(["", "H"])),
    )


@given(st.lists(trays(), min_size=1, max_size=4), trays("night"))
def test_a_file_holds_what_was_meant_after_any_edits(versions: list[Tray], other: Tray) -> None:
    data = edited(None, "app", None, other)
    assert data is not None
    data = data + b"# a remark of a person\n"
    before: Tray | None = None
    for each in versions:
        after = replace(each, layer=versions[0].layer)
        data = edited(data, "app", before, after)
        assert data is not None
        assert sorted(map(str, read(data, "f", "app"))) == sorted(map(str, (after, other)))
        assert b"# a remark of a person" in data
        before = after
    data = edited(data, "app", before, None)
    assert data is not None
    assert read(data, "f", "app") == [other]
    assert edited(data, "app", other, None) is None


@given(trays(), trays(), TITLES.filter(bool))
def test_one_group_is_taken_as_another_tray_has_it(one: Tray, other: Tray, title: str) -> None:
    def named(tray_: Tray) -> list[Group]:
        return [group for group in tray_.groups if group.title.casefold() == title.casefold()]

    if not named(one) and not named(other):
        with pytest.raises(ValueError, match="neither has a group"):
            editing.with_groups_of(one, other, title)
        return
    taken = editing.with_groups_of(one, other, title)
    assert named(taken) == named(other)
    rest = [group for group in taken.groups if group not in named(taken)]
    assert rest == [group for group in one.groups if group not in named(one)]


def test_items_and_groups_are_put_moved_and_taken() -> None:
    one = editing.add(tray(), ["buoy", "wreck"], "Lights")
    one = editing.add(one, ["undo"], "Lights", before="wreck")
    assert one.groups == (Group("Lights", ("buoy", "undo", "wreck")),)
    two = editing.move(editing.new_group(one, "Depths", before="Lights"), "undo", "Depths")
    assert two.groups == (Group("Depths", ("undo",)), Group("Lights", ("buoy", "wreck")))
    assert editing.move_group(two, "dep", after="Lights").groups == two.groups[::-1]
    assert editing.rename_group(two, "Lights", "Marks").groups[1].title == "Marks"
    assert editing.drop_group(two, "Depths").items == ("buoy", "wreck")
    lined = editing.add(one, [PARTING, "plates"])
    assert editing.drop(lined, ["plates"]).groups == one.groups
    for wrong in (
        lambda: editing.move(one, "plates"),
        lambda: editing.group_at(one, "Depths"),
        lambda: editing.new_group(one, "lights"),
        lambda: editing.move(one, "undo", before="undo"),
    ):
        with pytest.raises(ValueError):
            wrong()


def test_the_nearest_layer_counts_and_places_are_kept() -> None:
    house = replace(tray(), layer="house", title="Theirs", place="first")
    other = tray("end")
    project = replace(tray(), layer="project", project="harbour", title="Harbour's")
    assert [t.title for t in counting((other, house, tray()), "")] == ["End", "Day"]
    assert counting((other, house), "")[0] == house
    assert counting((tray(), project), "harbour")[0].title == "Harbour's"
    assert counting((tray(), project), "hills")[0].title == "Day"
    assert read_place("AFTER draw", ["Edit", "Draw"]) == "after Draw"
    assert read_place("Last", ["Edit"]) == "last"
    for wrong in ("beside Edit", "before", "after Nothing", "first Edit"):
        with pytest.raises(ValueError):
            read_place(wrong, ["Edit"])


def said(one: Tray, item: str, *others: Tray, scheme: Scheme | None = None) -> set[str]:
    keymap = keymap_of(one, *others, scheme=scheme)
    return {each.what for each in of_new_item(keymap, one, item)}


def test_what_is_said_of_an_item() -> None:
    assert said(tray(), "wreck") == set()
    assert said(tray(), "nothing") == {"unknown"}
    assert said(tray(), "undo") == {"one-press"}
    assert said(tray("day", "tab", "wreck"), "wreck") == {"there"}
    assert said(tray("day", "tab", "wreck", "buoy", "old", "sky"), "plates") == {"full"}
    assert said(tray("day", "bar"), "plates") == {"refused", "icon"}
    assert said(tray(), "old") == {"withdrawn"}
    assert said(tray(), "sky") == {"unavailable"}
    inner = tray("inner", "tab", "tray.day")
    assert said(tray(), "tray.inner", inner) == {"itself"}


def test_an_edit_lies_over_the_house_and_a_reset_shows_it_again() -> None:
    house = replace(tray("day", "tab", "wreck"), layer="house")
    view = view_of(app_with(house))

    def edit(one: Tray, wanted: core.Edit, *all_: Tray) -> core.Change:
        return core.edit_tray(
            view, core.EditTray(tray=one, layer="personal", edit=wanted, all=all_)
        )

    change = edit(house, core.Add(items=("buoy",)), house)
    before, mine = change.trays[0].before, change.trays[0].after
    assert (before, mine and mine.items) == (None, ("wreck", "buoy"))
    assert core.Over("house") in change.effects
    assert mine is not None
    gone = edit(mine, core.ResetTray("house"), house, mine).trays[0].after
    assert gone is None
    off = edit(mine, core.ResetTray("factory"), house, mine).trays[0].after
    assert off is not None
    assert (off.off, off.items) == (True, ("wreck",))
    assert edit(mine, core.ResetTray("house"), mine).refusals[0].what == core.NOTHING_BELOW
    assert edit(tray("x", "lamp"), core.New()).refusals[0].what == core.NO_KIND
    assert edit(tray("x"), core.New(), tray("a"), tray("b")).refusals[0].what == core.TOO_MANY
    grouped = edit(tray("x", "bar"), core.Add(items=("undo",), group="Lights"))
    assert grouped.refusals[0].what == core.WRONG
    assert edit(mine, core.DropItems(("undo",)), mine).refusals[0].what == core.WRONG
    assert edit(mine, core.Add(items=("buoy",)), mine).already


def event(command: str, how: str = "menu", time: str = "1", mode: str = "draw") -> Event:
    return Event(time=time, app="app", version="1", mode=mode, command=command, how=how)


def test_what_fills_a_tray() -> None:
    events = [
        event("wreck", "menu", "2026-01-01"),
        event("buoy", "key", "2026-01-02"),
        event("buoy", "key", "2026-01-03"),
        event("undo", "key", "2026-01-04", "everywhere"),
        event("sky", "macro", "2026-01-05"),
        event("elsewhere", "menu", "2026-01-06"),
    ]

    def now(fill: str, most: int = 9, **fields: object) -> list[tuple[str, str, int]]:
        one = replace(tray("day", "ring", fill=fill, most=most), **fields)
        return [
            (e.item, e.why, e.times)
            for e in filled(one, tally_of(events, "log", ""), keymap_of(one))
        ]

    assert [item for item, _, _ in now("recent")] == ["undo", "buoy", "wreck"]
    assert now("most", 1) == [("buoy", "most", 2)]
    assert now("missing-key") == [("wreck", "missing-key", 1)]
    assert [item for item, _, _ in now("recent", modes=("draw",))] == ["buoy", "wreck"]
    pinned = now("recent", groups=(Group("", ("sky", "buoy")),))
    assert pinned[:2] == [("sky", "pinned", 0), ("buoy", "pinned", 2)]
    assert [item for item, _, _ in pinned[2:]] == ["undo", "wreck"]


@given(st.lists(ITEMS, unique=True, max_size=4))
def test_carried_there_and_back_it_loses_only_what_was_named(items: list[str]) -> None:
    other = App(
        name="other",
        title="Other",
        version="1",
        modes=ModeTree({}),
        rules=Rules(trays={"tab": KINDS["tab"]}),
        catalogue=Catalogue((Command(id="back", title="Back"), Command(id="mark", title="Mark"))),
    )
    purposes = Purposes(
        (
            Purpose(id="undo", title="Undo", links={"app": ("undo",), "other": ("back",)}),
            Purpose(id="buoy", title="Buoy", links={"app": ("buoy",), "other": ("mark",)}),
            Purpose(id="wreck", title="Wreck", links={"app": ("wreck",)}),
        )
    )
    one = replace(tray(), groups=(Group("Lights", tuple(items)),) if items else ())
    there = carried(one, purposes, Keymap(Stack(other), Keyboard("pc")), "tab")
    back = carried(there.tray, purposes, keymap_of(), "tab")
    named = {each.item for each in there.left}
    assert list(back.tray.items) == [item for item in items if item not in named]
    assert named == {item for item in items if item not in ("undo", "buoy")}
    assert back.left == ()


def test_trays_that_others_lead_to_are_built_first() -> None:
    outer, inner = tray("outer", "tab", "tray.inner"), tray("inner", "tab", "wreck")
    steps = [(s.what, s.tray.name) for s in tray_steps(app_with(outer, inner))]
    assert steps == [("make", "inner"), ("put", "inner"), ("make", "outer"), ("put", "outer")]


def on(command: str, run: str) -> Scheme:
    return Scheme(
        app="app", name="mine", layer=PERSONAL, assign={command: (Assignment(keys=(key(run),)),)}
    )


def ids(app: App, *schemes: Scheme, across: Across | None = None) -> set[str]:
    return {f.id for f in all_findings(view_of(app, *schemes, across=across))}


@pytest.mark.parametrize(
    ("finding", "bad", "good"),
    [
        ("tray-item-gone", tray("day", "tab", "nothing"), tray("day", "tab", "wreck")),
        ("tray-item-gone", tray("day", "tab", "old"), tray("day", "tab", "old", off=True)),
        ("tray-refuses", tray("day", "bar", "plates"), tray("day", "tab", "plates")),
        ("tray-refuses", tray("day", "tab", *"abcde"), tray("day", "tab", *"abcd")),
        ("tray-letters", tray(letter="V"), tray(letter="D")),
        ("tray-unreachable", tray("day", "ring"), tray("day", "tab")),
        ("tray-duplicate", tray("day", "tab", "wreck", "wreck"), tray("day", "tab", "wreck")),
        (
            "tray-crowded",
            tray("day", "ring", "wreck", "buoy", "sky"),
            tray("day", "ring", "wreck", PARTING, "buoy", "sky"),
        ),
    ],
)
def test_a_tray_is_found_out(finding: str, bad: Tray, good: Tray) -> None:
    assert finding in ids(app_with(bad))
    assert finding not in ids(app_with(good))


def test_a_key_given_later_and_a_slot_that_moved_are_noticed() -> None:
    app = app_with(tray("day", "tab", "wreck", "undo"))
    assert "tray-item-has-key" in ids(app, on("wreck", "F9"))
    assert "tray-item-has-key" not in ids(app, on("wreck", "W R"))
    assert "tray-unreachable" not in ids(app_with(tray("day", "ring")), on("tray.day", "F9"))
    seen = app_with(vias={"Gauge": Via("view", "Quay")})
    assert "via-moved" not in ids(seen)
    assert "via-moved" in ids(app_with(vias={"Gauge": Via("view", "Hill")}))


@pytest.mark.parametrize(
    ("via", "says", "advice"),
    [
        # The slot holds what was noted: nothing to say.
        (Via("view", "Quay"), "", None),
        # It holds something else, or what it holds was noted by nobody.
        (
            Via("view", "Hill"),
            "which holds “Quay” now",
            ShowThrough(app="app", thing="Gauge", through="view"),
        ),
        (
            Via("wreck", "Hill"),
            "nothing that is noted",
            NoteSlot(app="app", slot="wreck", holds="Hill"),
        ),
        # Another slot holds it by now.
        (
            Via("wreck", "Quay"),
            "“Quay” is in",
            ShowThrough(app="app", thing="Gauge", through="view"),
        ),
        # The command is gone, or withdrawn.
        (Via("nothing", ""), "is gone", ForgetThing(app="app", thing="Gauge")),
        (Via("old", ""), "is gone", ForgetThing(app="app", thing="Gauge")),
    ],
)
def test_what_shows_something_else_by_now_is_named_with_what_to_do(
    via: Via, says: str, advice: Action | None
) -> None:
    found = [f for f in all_findings(view_of(app_with(vias={"Gauge": via}))) if f.id == "via-moved"]
    assert [f.advice for f in found] == ([advice] if advice else [])
    assert all(says in f.says for f in found)


def test_trays_of_one_name_that_differ() -> None:
    def finding(items: tuple[str, ...]) -> set[str]:
        there = replace(app_with(tray("day", "tab", "buoy")), name="other")
        there = replace(there, trays=(replace(there.trays[0], app="other"),))
        here = app_with(tray("day", "tab", *items))
        links = {"app": ("wreck",), "other": ("buoy",)}
        purposes = Purposes((Purpose(id="sink", title="Sink", links=links),))
        maps = [Keymap(Stack(each), Keyboard("pc")) for each in (here, there)]
        return ids(here, across=Across({each.app.name: each for each in maps}, purposes))

    assert "trays-differ" in finding(("undo",))
    assert "trays-differ" not in finding(("undo", "wreck"))


def test_a_tray_is_a_way_in_and_can_be_opened_by_its_letter() -> None:
    app = app_with(tray("day", "tab", "wreck", letter="D"), tray("night", "tab", "wreck", off=True))
    assert [each.name for each in app.trays_with("wreck")] == ["day"]
    keymap = Keymap(Stack(app), Keyboard("pc"))
    outcome = keymap.decide(key("Alt+D"), "everywhere")
    assert outcome.winners[0].wired == "opens the tab “Day”"
