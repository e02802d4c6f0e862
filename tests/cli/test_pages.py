"""``page``, and all HTML, in a real browser where the machine has one."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.cli.browser import Page, browser, found
from tests.conftest import Ask, contents

needs_browser = pytest.mark.skipif(not found(), reason="no browser on this machine")

#: A title that would run, were it taken for mark-up.
HOSTILE = '</script><script>window.hacked=1</script><img src=x onerror="window.hacked=2">{{ 7*7 }}'

#: Every visible text whose colour and ground differ less than WCAG 2.1, 1.4.3, asks for.
FAINT = """(() => {
  const parts = text => text.match(/[\\d.]+/g).map(Number);
  const part = v => (v /= 255) <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  const light = c => 0.2126 * part(c[0]) + 0.7152 * part(c[1]) + 0.0722 * part(c[2]);
  const ground = at => {
    for (; at; at = at.parentElement) {
      const colour = parts(getComputedStyle(at).backgroundColor);
      if (colour.length < 4 || colour[3] > 0) return colour;
    }
    return [255, 255, 255];
  };
  const faint = [];
  for (const at of document.querySelectorAll('body *')) {
    const own = [...at.childNodes].some(n => n.nodeType === 3 && n.textContent.trim());
    if (!own || !at.checkVisibility() || at.closest('script')) continue;
    const pair = [light(parts(getComputedStyle(at).color)), light(ground(at))].sort((a, b) => b - a);
    const ratio = (pair[0] + 0.05) / (pair[1] + 0.05);
    if (ratio < 4.5) faint.push([at.textContent.slice(0, 30), at.className, ratio.toFixed(2)]);
  }
  return faint;
})()"""

#: Rows of a sheet in which a key reaches into the command beside it, or out of the window.
RUNS_INTO = """(() => {
  const bad = [];
  for (const row of document.querySelectorAll('.row')) {
    if (!row.checkVisibility()) continue;
    const beside = row.querySelector('dd').getBoundingClientRect();
    for (const key of row.querySelectorAll('kbd, .modes')) {
      const box = key.getBoundingClientRect();
      if (key.closest('dt') && box.right > beside.left + 0.5) bad.push(row.textContent);
      if (box.right > innerWidth + 0.5) bad.push(row.textContent);
    }
  }
  if (document.documentElement.scrollWidth > innerWidth) bad.push('the page is wider than the window');
  return bad;
})()"""


@pytest.fixture(scope="module")
def opened() -> Iterator[Page]:
    with browser() as page:
        yield page


@pytest.fixture
def keys(ask: Ask, desk: Path, opened: Page) -> Page:
    assert ask("keyless", "quillmap", "sheet.close", "--why", "by the menu").status == 0
    assert ask("mute", "quillmap", "Ctrl+Shift+E", "--why", "beside Ctrl+Shift+W").status == 0
    done = ask("page", "-o", "keys.html")
    assert done.status == 0, done.err
    opened.open(desk / "keys.html")
    opened.does("document.getElementById('tab-quillmap').click()")
    return opened


def test_the_page_is_one_file_without_an_address(ask: Ask, desk: Path) -> None:
    done = ask("page", "quillmap", "tagwright", "-o", "keys.html")
    assert (done.status, done.out) == (0, "Written: keys.html (2 applications).\n")
    text = (desk / "keys.html").read_text(encoding="utf-8")
    assert not re.search(r"https?://|//[a-z]+\.|url\(|\bsrc=|@import|<link", text)
    assert "Content-Security-Policy" in text
    assert text.count("aria-keyshortcuts=") > 100
    assert '<h2 class="name">Quillmap' in text
    again = ask("page", "quillmap", "-o", "keys.html")
    assert again.status == 2
    assert "exists already" in again.err
    said = ask("page", "quillmap", "-o", "other.html", "--json").json
    assert said == {
        "file": "other.html",
        "apps": ["quillmap"],
        "bytes": (desk / "other.html").stat().st_size,
    }
    before = contents(desk)
    assert ask("page", "nobody", "-o", "x.html").status == 2
    assert ask("page", "quillmap").status == 2
    assert ask("page", "quillmap", "-o", "none/x.html").status == 2
    assert contents(desk) == before


def tick(page: Page, held: str, mode: str) -> None:
    """Ticks the modifiers held, and the mode."""
    page.does(f"""(() => {{
      const app = document.querySelector('.app:not([hidden])');
      for (const box of app.querySelectorAll('.held input'))
        if (box.checked !== {held.split("+")!r}.includes(box.value)) box.click();
      for (const each of app.querySelectorAll('.mode label'))
        if (each.textContent === '{mode}') each.click();
    }})()""")


def board(page: Page) -> dict[str, list[str]]:
    """What stands on each key of the page: its state and its text."""
    shown: dict[str, list[str]] = page.does("""Object.fromEntries(
      [...document.querySelectorAll('.app:not([hidden]) .key')].map(key =>
        [key.dataset.code, [key.className.split(' ')[1], key.querySelector('span').textContent]]))""")
    return shown


@needs_browser
@pytest.mark.parametrize(
    ("held", "mode"),
    [("", "draw"), ("Ctrl", "label"), ("Ctrl+Shift", "everywhere"), ("Alt", "draw")],
)
def test_every_key_of_the_page_is_as_the_board_has_it(
    ask: Ask, keys: Page, held: str, mode: str
) -> None:
    tick(keys, held, mode)
    words = ("--with", held) if held else ()
    said = ask("board", "quillmap", "--mode", mode, *words, "--json").json["keys"]
    shown = board(keys)
    assert set(shown) == {key["code"] for key in said}
    for key in said:
        state, text = shown[key["code"]]
        # What is free in the mode itself may be used in one inside it: then it is not free for the page.
        assert state == key["state"] or (state, key["state"]) == ("inside", "free"), key
        # What the system does with a key it keeps has no room there: it is said beside the keyboard.
        assert bool(text) == (bool(key["commands"]) and state != "reserved"), key
    free = keys.does("document.querySelector('.app:not([hidden]) .room').textContent")
    found = ask("free", "quillmap", "--mode", mode, "--json").json["free"][held]
    typed = {
        key["label"]
        for key in said
        if key["code"].startswith("Key")
        and key["state"] == "free"
        and shown[key["code"]][0] == "free"
    }
    assert {word for word in free.split(": ")[-1].split() if word.isalpha()} == typed
    # ``free`` and the page have one answer.
    letters = {key.rpartition("+")[2] for key in found if len(key.rpartition("+")[2]) == 1}
    assert {word for word in letters if word.isalpha()} == typed
    assert keys.errors == []


@needs_browser
def test_it_is_used_with_the_keyboard_alone(keys: Page) -> None:
    tick(keys, "", "draw")
    keys.does("document.querySelector('.app:not([hidden]) [data-code=KeyT]').focus()")
    keys.press("ArrowDown", "ArrowDown")
    focused = keys.does("document.activeElement.dataset.code")
    assert focused in ("KeyF", "KeyG")
    said = keys.does("document.querySelector('.app:not([hidden]) .reason').textContent")
    assert "by factory" in said
    assert "commands.csv:" in said
    assert keys.does("document.activeElement.getAttribute('aria-label')").startswith("G: Gate")
    assert (
        keys.does("document.querySelectorAll('.app:not([hidden]) .key[tabindex=\"0\"]').length")
        == 1
    )
    # What is held lights up for as long as it is held.
    keys.press("Control", "ControlLeft", 2, up=False)
    assert board(keys)["KeyS"][1] == "Save sheet"
    assert "down" in keys.does(
        "document.querySelector('.app:not([hidden]) [data-code=ControlLeft]').className"
    )
    keys.release("Control", "ControlLeft")
    assert board(keys)["KeyS"][1] == "Spline"
    keys.does("document.getElementById('tab-quillmap').focus()")
    keys.press("ArrowRight", "ArrowRight")
    assert keys.does("document.querySelector('.app:not([hidden])').dataset.app") == "reliefkiln"
    assert keys.does("document.activeElement.getAttribute('aria-selected')") == "true"
    assert keys.errors == []


@needs_browser
def test_commands_are_found_by_words_and_by_a_press(keys: Page) -> None:
    tick(keys, "", "draw")
    keys.does("""(() => { const box = document.getElementById('words'); box.value = 'depth CONT';
      box.dispatchEvent(new Event('input')); })()""")
    lines = (
        "[...document.querySelectorAll('.app:not([hidden]) .row')].filter(r => r.checkVisibility())"
    )
    assert keys.does(f"{lines}.map(r => r.querySelector('dd').firstChild.textContent)") == [
        "Depth contour"
    ]
    assert keys.does("document.getElementById('count').textContent") == "1 command"
    keys.does("document.getElementById('press').focus()")
    keys.press("Z", "KeyZ", 2 | 8)
    assert keys.does("document.getElementById('press').value") == "Ctrl+Shift+Z"
    assert keys.does(f"{lines}.map(r => r.querySelector('dd').firstChild.textContent)") == ["Redo"]
    assert "lit" in keys.does(
        "document.querySelector('.app:not([hidden]) [data-code=KeyZ]').className"
    )
    keys.press("e", "KeyE", 2 | 8)
    said = keys.does("document.querySelector('.app:not([hidden]) .reason').textContent")
    assert "muted" in said
    assert "beside Ctrl+Shift+W" in said
    keys.does("document.getElementById('clear').click()")
    assert keys.does(f"{lines}.length") > 60
    assert keys.errors == []


@needs_browser
def test_every_command_of_every_application_is_found_and_shown_where_it_is(keys: Page) -> None:
    keys.does("document.getElementById('tab-tagwright').click()")
    keys.does("""(() => { const box = document.getElementById('words'); box.value = 'low-water';
      box.dispatchEvent(new Event('input')); })()""")
    hits = "[...document.querySelectorAll('#found button')]"
    parts = f"{hits}.map(b => [...b.children].map(c => c.textContent))"
    assert keys.does(parts) == [["Low-water line", "Draw > Water", "no key", "Quillmap"]]
    keys.does(f"{hits}[0].click()")
    assert keys.does("document.querySelector('.app:not([hidden])').dataset.app") == "quillmap"
    said = keys.does("document.querySelector('.app:not([hidden]) .reason').textContent")
    assert said == "no key Low-water linein the menus: Draw > Water"
    keys.does("""(() => { const box = document.getElementById('words'); box.value = 'bold';
      box.dispatchEvent(new Event('input')); })()""")
    keys.does(f"{hits}.find(b => b.textContent.includes('Quillmap')).click()")
    mode = "document.querySelector('.app:not([hidden]) .mode input:checked').parentNode.textContent"
    assert keys.does(mode) == "label"
    assert board(keys)["KeyB"] == ["used", "Bold"]
    assert keys.does("document.activeElement.dataset.code") == "KeyB"
    # What is printed says what is open.
    assert keys.does("document.querySelector('.app:not([hidden]) .state').textContent") == (
        "mode label with Ctrl"
    )
    assert keys.errors == []


#: Titles on keys that are cut, or broken within a word.
BROKEN = """(() => [...document.querySelectorAll('.app:not([hidden]) .key')].filter(key => {
  const span = key.querySelector('span');
  return span.scrollWidth > span.clientWidth || key.scrollHeight > key.clientHeight + 1;
}).map(key => key.textContent))()"""


@needs_browser
def test_no_title_on_a_key_is_cut_or_broken(keys: Page) -> None:
    for app in ("foldpress", "quillmap", "reliefkiln", "tagwright"):
        keys.does(f"document.getElementById('tab-{app}').click()")
        for held in ("", "Ctrl", "Ctrl+Shift", "Alt"):
            tick(keys, held, "draw")
            assert keys.does(BROKEN) == [], (app, held)


@needs_browser
def test_text_stands_out_by_day_and_by_night_and_nothing_runs_into_another(keys: Page) -> None:
    tick(keys, "", "draw")
    for dark in (False, True):
        keys.dark(dark)
        assert keys.does(FAINT) == []
    keys.does("document.querySelector('h1').style.color = '#777'")
    assert len(keys.does(FAINT)) == 1
    for width in (320, 480, 800, 1280, 1900):
        keys.size(width, 900)
        assert keys.does(RUNS_INTO) == [], width
    assert keys.errors == []


@needs_browser
def test_without_scripts_it_is_a_plain_sheet(keys: Page, desk: Path) -> None:
    keys.without_scripts(desk / "keys.html")
    seen = "e => e.checkVisibility()"
    assert keys.does(f"[...document.querySelectorAll('.scripted')].some({seen})") is False
    assert keys.does(f"[...document.querySelectorAll('article .row')].every({seen})") is True
    assert keys.does("document.querySelectorAll('.rose li').length") >= 20
    assert "Hedge" in keys.does("document.querySelector('.runs').textContent")


@needs_browser
def test_a_hostile_title_runs_nothing(ask: Ask, desk: Path, opened: Page) -> None:
    quoted = HOSTILE.replace('"', '""')
    (desk / "listing.csv").write_text(
        f'Title,Menu,Keys\n"{quoted}","{quoted}",Ctrl+Q\nOther,M,G D\n'
    )
    assert ask("app", "import", "Hostile", "--from", "listing.csv").status == 0
    assert ask("page", "hostile", "-o", "h.html").status == 0
    assert ask("sheet", "hostile", "--as", "html", "--out", "s.html").status == 0
    for name in ("h.html", "s.html"):
        opened.open(desk / name)
        assert opened.does("window.hacked === undefined") is True
        assert HOSTILE in opened.does("document.querySelector('.row dd').textContent")
    opened.open(desk / "h.html")
    tick(opened, "Ctrl", "everywhere")
    assert board(opened)["KeyQ"][1] == HOSTILE
    opened.does("document.querySelector('[data-code=KeyQ]').click()")
    assert opened.does("window.hacked === undefined") is True
    assert opened.does("document.images.length") == 0
    assert opened.errors == []


@pytest.mark.long
@needs_browser
@pytest.mark.parametrize("width", [320, 760, 1280])
def test_no_sheet_has_a_key_that_runs_into_its_command(
    ask: Ask, desk: Path, opened: Page, width: int
) -> None:
    listing = "Title,Menu,Keys\nLonganchoragenamewithoutanyspace,M,Ctrl+Alt+Shift+Num Enter\n"
    listing += "Back,Nav,Ctrl+Alt+Shift+Backspace or Ctrl+Shift+PageDown\nRun,Nav,G D K L\n"
    (desk / "listing.csv").write_text(listing)
    assert (
        ask("app", "import", "Long", "--from", "listing.csv", "--longest-sequence", "4").status == 0
    )
    for name in ("quillmap", "long"):
        done = ask("sheet", name, "--as", "html", "--out", f"{name}.html")
        assert done.status == 0, done.err
        opened.open(desk / f"{name}.html", width)
        assert opened.does(RUNS_INTO) == []
        heads = """[...document.querySelectorAll('.first')].every(box => {
          const [head, row] = [box.querySelector('h2'), box.querySelector('.row')].map(e => e.getBoundingClientRect());
          return row.top - head.bottom < 30 && Math.abs(row.left - head.left) < 2; })"""
        assert opened.does(heads) is True


@needs_browser
@pytest.mark.long
def test_no_page_is_wider_than_the_window(ask: Ask, desk: Path, opened: Page) -> None:
    assert ask("keyset", "learn", "larkspur").status == 0
    assert ask("scheme", "new", "foldpress/mine").status == 0
    assert ask("assign", "foldpress", "Map fold", "F2", "--if-taken", "replace").status == 0
    assert ask("assign", "quillmap", "line.hedge", "Ctrl+W", "--if-taken", "replace").status == 0
    for words in (
        ("export", "quillmap", "--as", "html"),
        ("compare", "quillmap/factory", "quillmap/mine", "--as", "html"),
        ("compare", "quillmap/factory", "quillmap/mine", "--as", "html", "--decisions"),
        ("worklist", "foldpress", "--as", "html"),
        ("surprises", "quillmap", "--as", "html"),
        ("sheet", "--keyset", "larkspur", "--as", "html"),
        ("sheet", "quillmap", "tagwright", "--as", "html"),
    ):
        done = ask(*words)
        assert "<table" in done.out or "<dl>" in done.out, (words, done.err)
        (desk / "page.html").write_text(done.out, encoding="utf-8")
        opened.open(desk / "page.html")
        for width in (320, 900):
            opened.size(width, 800)
            assert opened.does("document.documentElement.scrollWidth <= innerWidth"), (words, width)
            assert opened.does(FAINT) == [], words
        assert opened.errors == []
