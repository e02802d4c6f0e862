"""The page of keys as a file: what its script looks up, and that nothing in it can end what it stands in."""

import base64
import hashlib
import itertools
import json
import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys.roses import SIZES, bearings
from olive_compass.core.schemes.sheet import SheetGroup, SheetLine
from olive_compass.drawing.group_colours import PALETTE
from olive_compass.drawing.key_page import as_page
from olive_compass.drawing.key_page_markup import place
from olive_compass.drawing.key_page_values import Board, Branch, Ray, Seen, Shown
from olive_compass.drawing.rose_labels import gap
from olive_compass.structs import replace

TEXTS = st.text("ab <>&\"'/\u2028\u2029{}%\\", max_size=12)


def app(title: str = "Chart", seen: Seen | None = None, groups: int = 1) -> Shown:
    found = seen or Seen(state="used", text="Buoy", reasons=("by mine",), group="Draw")
    many = {
        f"F{n}": (
            Seen(state="used", text=f"Line {n}", reasons=(), group=f"Menu {n % groups}"),
            found,
        )
        for n in range(1, 13)
    }
    return Shown(
        name="chart",
        title=title,
        subtitle="1 · mine over factory",
        modes=("everywhere", "draw"),
        held=("Ctrl", "Shift"),
        boards=(
            Board("ANSI", (("KeyB", "B", 0.0, 0.0, 1.0, 1.0), ("F1", "F1", 1.0, 0.0, 1.0, 1.0))),
        ),
        grid={"": many, "Ctrl": {"KeyB": (Seen(state="free"), found)}},
        groups=(
            SheetGroup("Draw", (SheetLine(keys=(), title=title, id="buoy", where="", does=""),)),
        ),
        presses={"buoy": ("Ctrl+KeyB",)},
        aria={"buoy": "Control+B"},
        runs=(Branch("G", "Gate", (Branch("D", title),)),),
        roses={
            "draw": (
                Ray(bearing=0, name="N", does=title, differs=True),
                Ray(bearing=180, name="S", does="", differs=False),
            )
        },
    )


def data_of(page: str) -> Any:
    found = re.search(r'<script type="application/json" id="keys">(.*?)</script>', page, re.DOTALL)
    assert found is not None
    return json.loads(found[1])


def test_each_answer_is_kept_once_and_found_by_modifiers_key_and_mode() -> None:
    data = data_of(as_page("Desk", "", [app()]))["chart"]
    seen = data["seen"]
    assert seen[0] == {"state": "free", "text": "", "why": [], "group": ""}
    assert len({json.dumps(each) for each in seen}) == len(seen)
    assert [seen[n]["text"] for n in data["grid"]["Ctrl"]["KeyB"]] == ["", "Buoy"]
    assert [seen[n]["text"] for n in data["grid"][""]["F3"]] == ["Line 3", "Buoy"]
    assert data["modes"] == ["everywhere", "draw"]
    assert data["boards"][0]["keys"][0] == ["KeyB", "B", 0.0, 0.0, 1.0, 1.0]


def test_the_first_menus_have_the_colours() -> None:
    menus = ("Draw", *(f"Menu {n}" for n in range(11)))
    data = data_of(as_page("Desk", "", [replace(app(groups=11), menus=menus)]))["chart"]
    assert list(data["tints"].items()) == [
        (menu, tint) for menu, (tint, _) in zip(menus, PALETTE, strict=False)
    ]


@given(TEXTS, TEXTS, TEXTS)
def test_no_text_ends_the_element_that_it_stands_in(title: str, reason: str, group: str) -> None:
    page = as_page(
        title, reason, [app(title, Seen(state="used", text=title, reasons=(reason,), group=group))]
    )
    assert page.count("<script") == page.count("</script>") == 2
    seen = data_of(page)["chart"]["seen"]
    assert {"state": "used", "text": title, "why": [reason], "group": group} in seen
    script = page[page.rindex("<script>") + 8 : page.rindex("</script>")]
    digest = base64.b64encode(hashlib.sha256(script.encode()).digest()).decode()
    assert f"script-src 'sha256-{digest}'" in page
    assert "default-src 'none'" in page


def test_a_page_of_several_applications_has_a_tab_for_each() -> None:
    page = as_page("Desk", "", [app("One"), replace(app("Two"), name="two")])
    assert re.findall(r'role="tab" id="tab-(\w+)"', page) == ["chart", "two"]
    assert page.count('aria-selected="true"') == 1
    assert page.count("<article") == 2
    assert 'data-presses="Ctrl+KeyB" aria-keyshortcuts="Control+B"' in page
    assert "≠" in page
    assert ">empty<" in page


@pytest.mark.parametrize("size", SIZES)
def test_labels_around_a_rose_stand_on_the_side_of_their_bearing(size: int) -> None:
    for bearing in bearings(size):
        found = place(bearing)
        assert 0 < found.x < 100
        assert 0 < found.y < 100
        if bearing in (0, 180):
            assert found.side == ("n" if bearing == 0 else "s")
            assert found.x == 50
        else:
            assert found.side == ("e" if bearing < 180 else "w")
            assert (found.x > 50) is (bearing < 180)
    ys = [place(b).y for b in sorted(b for b in bearings(size) if 0 < b < 180)]
    # A label takes two lines: six parts of a hundred of the box of a rose each, which is larger where there are many.
    large = max(1.0, 12 / 37 / gap(size))
    assert large < 2
    assert all((later - earlier) * large > 11.9 for earlier, later in itertools.pairwise(ys))
