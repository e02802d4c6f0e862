"""Each finding has an example that triggers it, and one beside it that does not."""

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command, Rules, UnreadableKey
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme, Unreadable
from olive_compass.core.schemes.findings import SEVERITIES, View, all_findings, kinds
from olive_compass.core.schemes.layers import Stack

TRIM = Command("sheet.trim", "Trim", ("Sheet",), (key("F6"),))
SPLIT = Command("lines.split", "Split", ("Lines",), (key("S P"),), ("draw",))
SPLINE = Command("line.spline", "Spline", (), (key("Q"),), ("draw",))
BURN = Command("plate.burn", "Burn", ("Plates",))


def found(
    scheme: Scheme, *, duplicates: str = "replace", catalogue: Catalogue | None = None
) -> set[str]:
    catalogue = catalogue or Catalogue((TRIM, SPLIT, SPLINE, BURN))
    modes = ModeTree({"draw": "everywhere"})
    app = App("app", "App", "1", modes, Rules(duplicates, 4, True), catalogue)
    return {
        f"{f.id} {f.severity}" for f in all_findings(View(Stack(app, (scheme,)), Keyboard("pc")))
    }


def mine(**tables: object) -> Scheme:
    return Scheme("app", "mine", **tables)  # type: ignore[arg-type]


def on(*keys: str, modes: tuple[str, ...] = ("everywhere",)) -> tuple[Assignment, ...]:
    return (Assignment(tuple(map(key, keys)), modes),)


BARE_BURN = {"plate.burn": Decision("costs money")}


@pytest.mark.parametrize(
    ("finding", "bad", "good"),
    [
        (
            "same-press error",
            mine(assign={"sheet.trim": on("F9"), "lines.split": on("f9")}),
            mine(assign={"sheet.trim": on("F9"), "lines.split": on("F9", modes=("draw",))}),
        ),
        (
            "run-begins-run warning",
            mine(assign={"plate.burn": on("S")}),
            mine(assign={"plate.burn": on("B")}),
        ),
        (
            "unknown-command error",
            mine(assign={"sheet.trimm": on("F9")}),
            mine(assign={"sheet.trim": on("F9")}),
        ),
        (
            "lost-last-key warning",
            mine(assign={"plate.burn": on("F6")}),
            mine(assign={"plate.burn": on("F6"), "sheet.trim": on("F7")}),
        ),
        (
            "lost-last-key error",
            mine(mute={key("Q"): Decision("x")}),
            mine(mute={key("Q"): Decision("x")}, bare={"line.spline": Decision("x")}),
        ),
        (
            "unreadable-key error",
            mine(unreadable=(Unreadable("assign", "sheet.trim", "Crtl+B", "no key"),)),
            mine(),
        ),
        ("unassigned note", mine(), mine(bare=BARE_BURN)),
    ],
)
def test_found_where_it_is_and_not_beside(finding: str, bad: Scheme, good: Scheme) -> None:
    assert finding in found(bad)
    assert finding not in found(good)


def test_a_shared_key_is_a_note_where_the_application_offers_a_choice() -> None:
    both = mine(assign={"sheet.trim": on("F9"), "lines.split": on("F9")})
    assert "same-press note" in found(both, duplicates="choice")
    assert "same-press error" in found(both, duplicates="refuse")


def test_unreadable_factory_keys_are_found() -> None:
    broken = Catalogue((TRIM,), (UnreadableKey("sheet.trim", "Crtl+B", "no key", 3),))
    assert "unreadable-key error" in found(mine(), catalogue=broken)


def test_every_finding_explains_itself() -> None:
    for id_, module in kinds().items():
        assert id_ == module.ID == module.__name__.rpartition(".")[2].replace("_", "-")
        assert module.SEVERITY in SEVERITIES
        assert module.SAYS.endswith(".")
        assert module.ADVICE.endswith(".")
