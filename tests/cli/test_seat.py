"""What holds for one seat: keyboards, licences, its name; the desk itself is the same for all."""

import os
import signal
import subprocess
import time
import zipfile
from pathlib import Path

from tests.conftest import PROGRAM, Ask, ask_in, environ_of


def test_every_keyboard_of_the_seat_must_do(ask: Ask, desk: Path) -> None:
    before = (desk / "desk.toml").read_bytes()
    assert ask("desk", "keyboard", "--add", "iso-laptop/german").status == 0
    assert 'keyboards = ["ansi-104/us", "iso-laptop/german"]' in (desk / "seat.toml").read_text()
    lacking = ask("assign", "quillmap", "Cairn", "Ctrl+Num5", "--mode", "draw")
    assert (lacking.status, "Numpad5 key (iso-laptop/german)" in lacking.err) == (2, True)
    free = ask("free", "quillmap", "--mode", "draw", "--json").json["free"]
    assert "Home" not in free[""]
    found = ask("check", "quillmap", "--json").json["findings"]
    home = [f for f in found if f["id"] == "not-on-keyboard" and f["severity"] == "error"]
    assert "(iso-laptop/german)" in home[0]["says"]
    said = ask("assign", "quillmap", "Cairn", "Ctrl+[", "--mode", "draw").out
    assert "AltGr here (iso-laptop/german)" in said or "AltGr (iso-laptop/german)" in said
    assert ask("desk", "keyboard", "--remove", "iso-laptop/german").status == 0
    assert "no other keyboard" in ask("desk", "keyboard", "--remove", "iso-laptop/german").err
    assert "FORM/LAYOUT" in ask("desk", "keyboard", "--add", "german").err
    assert (desk / "desk.toml").read_bytes() == before


def test_a_desk_from_before_and_one_without_a_seat_work(ask: Ask, desk: Path) -> None:
    (desk / "seat.toml").unlink()
    assert ask("desk", "keyboard", "--json").json["form"] == "ansi-104"
    text = (desk / "desk.toml").read_text()
    old = 'platform = "mac"\nkeyboard = { form = "iso-105", layout = "french" }\nhand = "right"\n'
    (desk / "desk.toml").write_text(text.replace("\n\n", f"\n{old}\n", 1))
    shown = ask("desk", "keyboard", "--json").json
    assert (shown["form"], shown["platform"], shown["hand"]) == ("iso-105", "mac", "right")
    (desk / "seat.toml").write_text('format = "olive-compass-seat/1"\nhand = "left"\n')
    shown = ask("desk", "keyboard", "--json").json
    assert (shown["form"], shown["hand"]) == ("iso-105", "left")


def test_licences_and_the_name_are_of_the_seat(ask: Ask, desk: Path) -> None:
    ask("scheme", "new", "foldpress/mine")
    assert "which this computer does not have" in ask("assign", "foldpress", "Varnish", "F10").err
    about = (desk / "apps/foldpress/app.toml").read_bytes()
    assert ask("desk", "seat", "--name", "Klara", "--licence", "foldpress:varnish=yes").status == 0
    assert ask("assign", "foldpress", "Varnish", "F10").status == 0
    assert ask("history", "--json").json["changes"][0]["who"] == "Klara"
    assert (desk / "apps/foldpress/app.toml").read_bytes() == about
    assert ask("app", "rules", "foldpress", "--licence", "varnish=no").status == 0
    assert (desk / "apps/foldpress/app.toml").read_bytes() == about
    assert ask("app", "rules", "foldpress", "--json").json["licences"] == {"varnish": False}
    assert ask("desk", "seat", "--json").json["name"] == "Klara"
    assert "knows no licence" in ask("desk", "seat", "--licence", "foldpress:gold=yes").err


def test_the_seat_stays_here(ask: Ask, desk: Path) -> None:
    ask("desk", "seat", "--name", "Klara")
    assert ask("pack", "all.zip").status == 0
    with zipfile.ZipFile(desk / "all.zip") as bundle:
        assert "seat.toml" not in bundle.namelist()
    if ask("desk", "git").status == 0:
        assert "seat.toml" in (desk / ".gitignore").read_text()


def test_a_mistake_in_the_seat_is_told_with_its_line(desk: Path) -> None:
    (desk / "seat.toml").write_text(
        'format = "olive-compass-seat/1"\nplatform = "amiga"\nkeyboards = ["us"]\n'
    )
    refused = ask_in(desk, "press", "quillmap", "S")
    assert refused.status == 2
    assert "seat.toml:2" in refused.err
    assert "FORM/LAYOUT" in refused.err


def test_a_watched_desk_is_checked_anew_after_every_change(desk: Path) -> None:
    if os.name == "nt":
        return
    words = [*PROGRAM, "check", "quillmap", "--watch"]
    watching = subprocess.Popen(words, cwd=desk, env=environ_of(), stdout=subprocess.PIPE)
    try:
        assert watching.stdout is not None
        os.set_blocking(watching.stdout.fileno(), False)
        shown = ""

        def until(text: str) -> None:
            nonlocal shown
            deadline = time.monotonic() + 20
            while text not in shown and time.monotonic() < deadline:
                shown += (watching.stdout.read() or b"").decode()  # type: ignore[union-attr]
                time.sleep(0.05)
            assert text in shown

        until("Watching the desk")
        mine = desk / "schemes/quillmap/mine.toml"
        mine.write_text(mine.read_text() + '\n[assign]\n"no.such-thing" = "F10"\n')
        until("no.such-thing")
        watching.send_signal(signal.SIGINT)
        assert watching.wait(20) == 1
    finally:
        watching.kill()


def test_each_platform_keeps_the_keys_of_its_own_system(
    ask: Ask, desk: Path, tmp_path: Path
) -> None:
    def held(key: str) -> str:
        return str(ask("press", "quillmap", key).out)

    assert "locks the screen" in held("Meta+L")
    ask("desk", "system", "off", "PrintScreen")
    assert ask("desk", "keyboard", "--platform", "mac").status == 0
    assert "locks the screen" not in held("Meta+L")
    assert "ends the application" in held("Meta+Q")
    assert {row["key"] for row in ask("desk", "system", "--json").json["keys"]} >= {"Meta+Q"}
    ask("desk", "system", "remove", "Meta+Q")
    assert ask("desk", "keyboard", "--platform", "pc").status == 0
    keys = {row["key"]: row["on"] for row in ask("desk", "system", "--json").json["keys"]}
    assert (keys["Meta+L"], keys["PrintScreen"], "Meta+H" in keys) == (True, False, False)
    # A bundle from here brings its keys to a desk on another platform beside those that it has.
    assert ask("pack", "all.zip").status == 0
    other = tmp_path / "laptop"
    assert ask_in(tmp_path, "desk", "new", "laptop", "--platform", "linux").status == 0
    mine = ask_in(other, "desk", "system", "--json").json["keys"]
    taken = ask_in(other, "unpack", str(desk / "all.zip"), "--yes", "--if-taken", "replace")
    assert taken.status == 0, taken.err
    assert ask_in(other, "desk", "system", "--json").json["keys"] == mine
    assert ask_in(other, "desk", "keyboard", "--platform", "mac").status == 0
    keys = {row["key"]: row["on"] for row in ask_in(other, "desk", "system", "--json").json["keys"]}
    assert ("Meta+H" in keys, "Meta+Q" in keys) == (True, False)
