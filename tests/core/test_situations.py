"""Which headings of a manual are modes: those under which one key starts something else."""

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.situations import mode_names, situations
from olive_compass.core.keys.reading import read_trigger

EDIT, SHOW, MOVE = ("Edit",), ("In the show",), ("Move",)


def command(title: str, menu: tuple[str, ...], *keys: str, modes: tuple[str, ...] = ()) -> Command:
    return Command(
        id=title.lower(), title=title, menu=menu, keys=tuple(map(read_trigger, keys)), modes=modes
    )


def headings(*commands: Command) -> tuple[tuple[str, ...], ...]:
    return situations(commands, {EDIT, SHOW, MOVE}).headings


def test_only_different_commands_under_different_headings_part_them() -> None:
    undo = command("Undo", EDIT, "Ctrl+Z")
    assert headings(undo, command("Black", SHOW, "Ctrl+Z")) == (SHOW,)
    # The same command under two headings is repeated; two under one heading share their key.
    assert headings(undo, command("UNDO", SHOW, "Ctrl+Z")) == ()
    assert headings(undo, command("Restore", EDIT, "Ctrl+Z")) == ()
    # Other keys, a heading that is no heading of the document, and commands with modes say nothing.
    assert headings(undo, command("Black", SHOW, "B")) == ()
    assert headings(undo, command("Black", ("Elsewhere",), "Ctrl+Z")) == ()
    assert headings(undo, command("Black", SHOW, "Ctrl+Z", modes=("show",))) == ()


def test_as_few_headings_as_part_all_keys_and_the_split_names_who_is_under_one() -> None:
    commands = [
        command("Undo", EDIT, "Z"),
        command("Black", SHOW, "Z"),
        command("Nudge", MOVE, "M"),
        command("Measure", SHOW, "M"),
    ]
    found = situations(commands, {EDIT, SHOW, MOVE})
    assert found.headings == (SHOW,)
    assert [(str(each.key), each.one.title, each.other.title) for each in found.splits] == [
        ("Z", "Black", "Undo"),
        ("M", "Measure", "Nudge"),
    ]


def test_modes_are_named_by_their_headings_shorter_where_they_may_be() -> None:
    def slug(text: str) -> str:
        return "-".join(text.lower().split())

    names = mode_names([SHOW, ("Tables", "Cells"), ("Charts", "Cells")], slug)
    assert names[SHOW] == "in-the-show"
    assert names["Tables", "Cells"] == "tables-cells"
    long = ("A heading that goes on for quite a while in the hope of being read",)
    (name,) = mode_names([long], slug).values()
    assert len(name) <= 32
    assert not name.endswith(("-the", "-of", "-in"))
