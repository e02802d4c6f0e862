"""What the keys of a listing tell of the application, with the evidence for it."""

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.guesses import ENOUGH, as_values, evidence, guessed, guesses
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.reading import read_trigger
from olive_compass.desk.formats.app_writing import new_text


def listed(*keys: str, menus: int = 99, mode: str = "") -> list[Command]:
    return [
        Command(
            id=f"c.{mode}{n}",
            title=f"Thing {n}",
            menu=(f"Menu {n % menus}",),
            keys=tuple(map(read_trigger, key.split(" or "))),
            modes=(mode,) if mode else (),
        )
        for n, key in enumerate(keys)
    ]


HELD = [f"Ctrl+{letter}" for letter in "ABCDEFGHIJKL"] + [f"Shift+F{n}" for n in range(1, 13)]


def told(commands: list[Command], *modes: str) -> dict[str, tuple[object, str]]:
    return {each.rule: (each.value, each.because) for each in guesses(commands, modes)}


def test_a_word_processor_types_letters_and_takes_no_sequences() -> None:
    assert told(listed(*HELD)) == {
        "text-modes": (["everywhere"], "none of 24 keys is a plain letter or digit"),
        "longest-sequence": (1, "none of 24 keys is a sequence"),
        "most-keys": (1, "none of 24 commands with a key has two"),
        "modifiers": (["Main", "Shift"], "none of 24 keys has Alt or Meta"),
        "duplicates": ("replace", "no key of 24 appears twice under a heading"),
    }
    assert told(listed(*HELD[: ENOUGH - 1])) == {}
    assert "longest-sequence" in told(listed(*HELD[:ENOUGH]))


def test_each_key_that_is_otherwise_takes_a_guess_back() -> None:
    drawn = told(listed(*HELD, "P", "G D", "Alt+Meta+F2 or F3"))
    assert drawn.keys() == {"longest-sequence", "duplicates"}
    assert drawn["longest-sequence"] == (2, "1 of 28 keys is a sequence, the longest of 2 strokes")
    twice = told(listed(*HELD, "Ctrl+A", "Ctrl+B", menus=1))
    assert twice["duplicates"] == ("choice", "2 keys appear twice under one heading")
    # Where keys are plain letters in one mode and in another none is, text is typed in that other.
    modes = listed(*"ABCDEF") + listed(*HELD, mode="note")
    assert told(modes, "note")["text-modes"] == (
        ["note"],
        "none of 24 keys in note is a plain letter or digit",
    )
    assert told(listed("A"), "draw", "label")["text-modes"] == (
        ["label"],
        "what the modes are called",
    )


def test_a_guess_is_named_until_somebody_says_what_is_so() -> None:
    commands = listed(*HELD)
    names = frozenset(as_values(guesses(commands, ())))
    app = App(
        name="a",
        title="A",
        version="",
        modes=ModeTree({}),
        rules=Rules(guessed=names),
        catalogue=Catalogue(tuple(commands)),
    )
    assert guessed(app, "modifiers") == " (guessed: none of 24 keys has Alt or Meta)"
    assert evidence(app, "plain-keys") == guessed(app, "wait") == ""


def test_a_new_file_has_a_guess_among_the_guesses_and_nowhere_else() -> None:
    rules = Rules(duplicates="replace", longest_sequence=3, guessed=("duplicates",))
    text = new_text("Quillmap", "4", ("draw",), rules, {"most-keys": 1}).decode()
    head, guessed = text.split("[guessed]")
    assert "longest-sequence = 3" in head
    assert "duplicates =" not in head
    assert "most-keys = 1" in guessed
    told = new_text("Quillmap", "4", (), rules, {"longest-sequence": 2}).decode()
    assert "longest-sequence = 3" not in told
    assert "longest-sequence = 2" in told
