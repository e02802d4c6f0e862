"""Merging the files of a desk: for any decisions, and with nothing lost."""

import tomllib
from collections.abc import Iterable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes
from olive_compass.desk import merging
from olive_compass.desk.bundles import Bundle, pack, unpack
from olive_compass.desk.formats import keyset_file, purposes_file
from olive_compass.desk.merging import merge_file
from olive_compass.desk.texts.toml_text import quoted
from olive_compass.structs import replace

WORDS = st.text("abc =#[]\"'\\é", max_size=6)
NAMES = st.sampled_from(["a", "b.c", "d-e", "F1", "Ctrl+,"])
VALUES = st.one_of(
    WORDS.map(quoted),
    st.lists(WORDS.map(quoted), max_size=2).map(lambda each: f"[{', '.join(each)}]"),
    st.tuples(WORDS, WORDS).map(lambda p: f"{{ keys = [{quoted(p[0])}], why = {quoted(p[1])} }}"),
)
TABLES = st.dictionaries(NAMES, VALUES, max_size=4)
FILES = st.dictionaries(st.sampled_from(["assign", "mute", "guard"]), TABLES, max_size=3)


def text(tables: dict[str, dict[str, str]], comment: str = "") -> bytes:
    lines = ['format = "x"', *([f"# {comment}"] if comment else [])]
    for name, entries in tables.items():
        lines += ["", f"[{name}]"]
        lines += [f"{quoted(key)} = {value}" for key, value in entries.items()]
    return ("\n".join(lines) + "\n").encode()


def decisions(data: bytes | None) -> dict[tuple[str, str], object]:
    content = tomllib.loads((data or b"").decode())
    return {
        (table, key): value
        for table, entries in content.items()
        if isinstance(entries, dict)
        for key, value in entries.items()
    }


@given(FILES, FILES)
def test_an_unchanged_side_gives_the_other(
    base: dict[str, dict[str, str]], other: dict[str, dict[str, str]]
) -> None:
    first, second = text(base), text(other, "theirs")
    assert merge_file("s.toml", first, first, second).data == second
    assert merge_file("s.toml", first, second, first).data == second
    assert merge_file("s.toml", first, second, second).data == second


@given(FILES, FILES, FILES, st.sampled_from(["ours", "theirs", ""]))
def test_lines_in_our_own_form_are_merged_as_the_editor_would(
    base: dict[str, dict[str, str]],
    ours: dict[str, dict[str, str]],
    theirs: dict[str, dict[str, str]],
    side: str,
) -> None:
    files = text(base), text(ours, "ours"), text(theirs)
    quick = merge_file("s.toml", *files, lambda _path, _conflict: side)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(merging, "_by_lines", lambda *_: None)
        slow = merge_file("s.toml", *files, lambda _path, _conflict: side)
    assert quick.conflicts == slow.conflicts
    assert (quick.data is None) == (slow.data is None)
    assert quick.data == slow.data or decisions(quick.data) == decisions(slow.data)
    assert b"# ours" in (quick.data or b"# ours")


@given(FILES, FILES, FILES)
def test_a_merge_loses_nothing_that_one_side_decided(
    base: dict[str, dict[str, str]],
    ours: dict[str, dict[str, str]],
    theirs: dict[str, dict[str, str]],
) -> None:
    sides = text(base), text(ours, "ours"), text(theirs)
    merged = merge_file("s.toml", *sides)
    old, a, b = map(decisions, sides)
    found = decisions(merged.data)
    conflicts = {conflict.key for conflict in merged.conflicts}
    for name in {*old, *a, *b}:
        if a.get(name) == b.get(name) or b.get(name) == old.get(name):
            assert found.get(name) == a.get(name)
        elif a.get(name) == old.get(name):
            assert found.get(name) == b.get(name)
        else:
            assert name in conflicts
            assert found.get(name) == a.get(name)
    assert b"# ours" in (merged.data or b"")
    resolved = merge_file("s.toml", *sides, lambda path, conflict: "theirs")
    assert not resolved.conflicts
    again = decisions(resolved.data)
    assert all(again.get(name) == b.get(name) for name in conflicts)


CELLS = st.dictionaries(
    st.sampled_from(["title", "keys", "one"]), st.text("ab,;\"'=\n", max_size=3)
)
ROWS = st.dictionaries(st.sampled_from(["x", "y", "z"]), CELLS, max_size=3)


@given(ROWS, ROWS)
def test_tables_of_an_unchanged_side_give_the_other(
    base: dict[str, dict[str, str]], other: dict[str, dict[str, str]]
) -> None:
    import csv
    import io

    def table(rows: dict[str, dict[str, str]]) -> bytes:
        out = io.StringIO()
        out.write("# f\n")
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow(("id", "title", "keys", "one"))
        for id_, cells in rows.items():
            writer.writerow((id_, *(cells.get(name, "") for name in ("title", "keys", "one"))))
        return out.getvalue().encode()

    first, second = table(base), table(other)
    # A third, which changes nothing in a row that the second has not either.
    assert merge_file("c.csv", first, second, first).data == second
    both = merge_file("c.csv", first, second, table({**base, "new": {"title": "n"}}))
    assert not [conflict for conflict in both.conflicts if conflict.key[0] == "new"]  # type: ignore[index]
    assert b"new,n" in (both.data or b"")


PURPOSES = st.lists(
    st.builds(
        Purpose,
        id=st.text("abc-", min_size=1, max_size=4),
        title=st.text("Ab =", min_size=1, max_size=6).map(str.strip).filter(bool),
        group=st.sampled_from(["files", ""]),
        risk=st.sampled_from(RISKS),
        names=st.lists(
            st.text("ab ", min_size=1, max_size=5).map(str.strip).filter(bool), max_size=2
        ).map(tuple),
        links=st.dictionaries(
            st.sampled_from(["quillmap", "tagwright"]),
            st.lists(st.sampled_from(["a.b", "c", "=d"]), min_size=1, max_size=2, unique=True).map(
                tuple
            ),
        ),
        line=st.just(0),
    ),
    max_size=4,
    unique_by=lambda purpose: purpose.id,
)


@given(PURPOSES)
def test_purposes_come_back_as_they_were(listed: list[Purpose]) -> None:
    back = purposes_file.read(purposes_file.write(Purposes(listed)), "p.csv")
    assert [replace(purpose, line=0) for purpose in back.all] == listed


RUNS = st.lists(
    st.sampled_from([key(k) for k in ("F1", "Main+S", "G D", "swipe:NE", "Ctrl+,")]),
    min_size=1,
    max_size=3,
    unique=True,
).map(tuple)
SETS = st.dictionaries(
    st.sampled_from(["save", "stop", "a b"]), st.builds(Entry, RUNS, WORDS), max_size=3
)


@given(SETS, SETS)
def test_editing_a_key_set_leads_to_the_one_that_was_meant(
    before: dict[str, Entry], after: dict[str, Entry]
) -> None:
    old, new = KeySet("k", "K", before), KeySet("k", "Other", after)
    data = keyset_file.new_text(old)
    assert keyset_file.read(data, "k.toml", "k") == old
    assert keyset_file.read(keyset_file.edited(data, old, new), "k.toml", "k") == new


@given(
    st.dictionaries(
        st.sampled_from(["purposes.csv", "apps/a/app.toml", "logs/x.jsonl"]), st.binary(max_size=50)
    )
)
def test_any_content_is_carried(files: dict[str, bytes]) -> None:
    bundle = Bundle(scope="desk", name="x", made="now", files=files)
    assert unpack(pack(bundle), "x.zip") == bundle


ROWS = {"a": ("A", "F1"), "b": ("B", "F2"), "c": ("C", "")}
#: What a side may do to a row: nothing, take it out, change its title or its keys, or both.
DEEDS = ("as it is", "out", "title", "keys", "both")
deeds = st.fixed_dictionaries({id_: st.sampled_from(DEEDS) for id_ in ROWS})


def _rows(deeds: dict[str, str], side: str) -> dict[str, tuple[str, str]]:
    """The rows after what a side did to them."""
    found = {}
    for id_, (title, keys) in ROWS.items():
        deed = deeds[id_]
        if deed == "out":
            continue
        found[id_] = (
            f"{title} {side}" if deed in ("title", "both") else title,
            f"Ctrl+{side[0].upper()}" if deed in ("keys", "both") else keys,
        )
    return found


def _csv(rows: dict[str, tuple[str, str]]) -> bytes:
    lines = [",".join((id_, *cells)) for id_, cells in rows.items()]
    return "\n".join(("# olive-compass-commands/1", "id,title,keys", *lines, "")).encode()


def _scheme(rows: dict[str, tuple[str, str]], keyless: Iterable[str]) -> bytes:
    """A scheme with a decision a row: a key, or none on purpose."""
    head = 'format = "olive-compass-scheme/1"\napp = "app"\nlayer = "personal"\n'
    assign = [
        f'"{id_}" = ["{keys or "F9"}"]' for id_, (_, keys) in rows.items() if id_ not in keyless
    ]
    none = [f'"{id_}" = "{title}"' for id_, (title, _) in rows.items() if id_ in keyless]
    return "\n".join((head, "[assign]", *assign, "", "[keyless]", *none, "")).encode()


@given(deeds, deeds)
def test_what_one_side_takes_out_and_the_other_changes_is_settled_as_a_whole(
    ours: dict[str, str], theirs: dict[str, str]
) -> None:
    sides = _rows(dict.fromkeys(ROWS, "as it is"), ""), _rows(ours, "ours"), _rows(theirs, "theirs")
    base, mine, other = map(_csv, sides)
    torn = {
        id_
        for id_ in ROWS
        if "out" in (ours[id_], theirs[id_]) and not {ours[id_], theirs[id_]} <= {"out", "as it is"}
    }
    left = merge_file("apps/app/commands.csv", base, mine, other)
    assert torn <= {str(conflict.key) for conflict in left.conflicts}
    for side, rows in (("ours", sides[1]), ("theirs", sides[2])):
        merged = merge_file("apps/app/commands.csv", base, mine, other, lambda path, conflict: side)  # noqa: B023
        assert merged.conflicts == ()
        found = [line.split(",") for line in (merged.data or b"").decode().splitlines()[2:]]
        for id_ in torn:
            kept = [tuple(cells[1:]) for cells in found if cells[0] == id_]
            assert kept == ([rows[id_]] if id_ in rows else []), (id_, side)


some_rows = st.sets(st.sampled_from(sorted(ROWS)))


@given(deeds, deeds, some_rows, some_rows)
def test_a_decision_is_settled_as_a_whole(
    ours: dict[str, str], theirs: dict[str, str], keyless: set[str], others: set[str]
) -> None:
    mine, other = _rows(ours, "ours"), _rows(theirs, "theirs")
    files = (
        _scheme(_rows(dict.fromkeys(ROWS, "as it is"), ""), ()),
        _scheme(mine, keyless),
        _scheme(other, others),
    )
    path = "schemes/app/mine.toml"
    for side in ("ours", "theirs"):
        merged = merge_file(path, *files, lambda path, conflict: side)  # noqa: B023
        tables = tomllib.loads((merged.data or b"").decode())
        # No command has keys and is left without any.
        assert not set(tables.get("assign", {})) & set(tables.get("keyless", {})), merged.data
