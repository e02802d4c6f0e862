"""A desk that an older version wrote: it is read as it was meant, changed in place, and rewritten once."""

from pathlib import Path

from tests.conftest import Ask

OLD = {
    "apps/*/app.toml": {
        "[swipes]": "[roses]",
        "[unlisted]": "[built-in]",
        "[via]": "[vias]",
        "longest-sequence": "longest-run",
        "typed-sequences": "typed-runs",
    },
    "schemes/*/*.toml": {"[keyless]": "[bare]", "overrides-lower": "hides-lower"},
    "purposes.csv": {",irreversible,": ",lasting,"},
}


def made_older(desk: Path) -> dict[Path, bytes]:
    """Writes the desk's files in the words of an older version; their contents before."""
    before = {}
    for pattern, words in OLD.items():
        for path in desk.glob(pattern):
            text = path.read_text()
            old = text
            for new, word in words.items():
                old = old.replace(new, word)
            if old != text:
                before[path] = path.read_bytes()
                path.write_text(old)
    (desk / "fileformats/kiln.toml").rename(desk / "textforms-kiln")
    (desk / "textforms").mkdir()
    form = (desk / "textforms-kiln").read_text()
    (desk / "textforms/kiln.toml").write_text(form.replace("-fileformat/", "-textform/"))
    (desk / "textforms-kiln").unlink()
    return before


LOOKS = (
    ("check", "--json"),
    ("find", "--keyless", "--json"),
    ("app", "rules", "quillmap", "--json"),
    ("swipes", "quillmap", "--json"),
    ("scheme", "show", "quillmap/house", "--json"),
    ("fileformat", "show", "kiln", "--json"),
    ("purpose", "list", "--json"),
)


def test_what_an_older_version_wrote_is_read_changed_and_rewritten(ask: Ask, desk: Path) -> None:
    looks = [ask(*words).json for words in LOOKS]
    before = made_older(desk)
    assert len(before) > 5
    older = {path: path.read_bytes() for path in before}
    assert [ask(*words).json for words in LOOKS] == looks

    # A change is made in the table that is there, and not in a second one.
    keyless = ask("find", "--keyless", "--app", "quillmap", "--json").json["hits"][0]["command"]
    assert ask("clear", "quillmap", keyless, "--scheme", "house").status == 0
    assert keyless not in (desk / "schemes/quillmap/house.toml").read_text()
    assert ask("undo").status == 0
    assert {path: path.read_bytes() for path in before} == older

    shown = ask("desk", "update", "--dry-run")
    assert "Dry run: nothing was written." in shown.out
    assert {path: path.read_bytes() for path in before} == older
    done = ask("desk", "update")
    assert f"Rewrote {len(before) + 2} files of an older version" in done.out
    assert {path: path.read_bytes() for path in before} == before
    assert not (desk / "textforms/kiln.toml").exists()
    assert [ask(*words).json for words in LOOKS] == looks
    assert "Nothing on this desk was written by an older version." in ask("desk", "update").out
    assert ask("undo").status == 0
    assert {path: path.read_bytes() for path in before} == older


def test_a_mark_of_an_older_version_is_both_of_todays(ask: Ask, desk: Path) -> None:
    path = desk / "apps/quillmap/commands.csv"
    both = path.read_bytes()
    path.write_bytes(both.replace(b"irreversible long-running", b"lasting"))
    listed = ask("find", "--mark", "long-running", "--app", "quillmap", "--json").json["hits"]
    assert "plate.burn-all" in [each["command"] for each in listed]
    assert ask("desk", "update").status == 0
    assert path.read_bytes() == both
