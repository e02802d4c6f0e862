"""Bundles that cannot be trusted, and the files of a desk merged three ways."""

import hashlib
import io
import json
import stat
import zipfile
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.desk import bundles
from olive_compass.desk.bundles import Bundle, is_of_desk, pack, unpack
from olive_compass.desk.formats import keyset_file, manifest_file
from olive_compass.desk.git import with_block, without_block
from olive_compass.desk.merging import merge_file
from olive_compass.errors import UserError
from olive_compass.structs import replace

FILES = {"schemes/quillmap/mine.toml": b"format = 1\n", "purposes.csv": b"# x\n"}


def zipped(
    entries: dict[str, bytes], manifest: object = None, mode: int = 0, times: int = 1
) -> bytes:
    """A crafted bundle: ``manifest`` in place of the right one."""
    listed = {
        path: {"sha256": hashlib.sha256(data).hexdigest(), "size": len(data)}
        for path, data in entries.items()
    }
    right = {
        "format": manifest_file.FORMAT,
        "scope": "desk",
        "name": "x",
        "made": "",
        "files": listed,
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        text = manifest if isinstance(manifest, bytes) else json.dumps(manifest or right).encode()
        archive.writestr("manifest.json", text)
        for path, data in entries.items():
            info = zipfile.ZipInfo(path)
            info.external_attr = mode << 16
            for _ in range(times):
                archive.writestr(info, data)
    return out.getvalue()


def test_a_bundle_comes_back_as_it_was_and_the_same_desk_gives_the_same_bytes() -> None:
    bundle = Bundle(scope="desk", name="Larkspur", made="2026-11-23", files=FILES)
    data = pack(bundle)
    assert unpack(data, "x.zip") == bundle
    assert pack(bundle) == data


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "no bundle"),
        (b"PK\x03\x04 nonsense", "no bundle"),
        (pack(Bundle(scope="d", name="n", made="", files=FILES))[:-40], "no bundle"),
        (zipped({"../outside.toml": b""}), "no file of a desk"),
        (zipped({"/etc/desk.toml": b""}), "no file of a desk"),
        (zipped({"schemes/../../x.toml": b""}), "no file of a desk"),
        (zipped({"schemes\\..\\x.toml": b""}), "no file of a desk"),
        (zipped({".history/000001.json": b""}), "no file of a desk"),
        (zipped({"schemes/.hidden/x.toml": b""}), "no file of a desk"),
        (zipped({"apps/con/app.toml": b""}), "no file of a desk"),
        (zipped({"program.py": b""}), "no file of a desk"),
        (zipped(FILES, mode=stat.S_IFLNK | 0o777), "a link"),
        (zipped({"apps/a/app.toml": b"", "apps/A/app.toml": b""}), "twice"),
        (zipped(FILES, {"format": "olive-compass-bundle/9"}), "this program reads"),
        (zipped(FILES, {"format": "else"}), "does not have"),
        (zipped(FILES, b"not json"), "not JSON"),
        (zipped(FILES, b"[" * 5000), "not JSON"),
        (zipped(FILES, {"format": manifest_file.FORMAT, "files": {}}), "missing in the manifest"),
        (zipped(FILES, {"format": manifest_file.FORMAT}), "“files” is missing in a manifest"),
        (
            zipped(
                {"purposes.csv": b"x"},
                {"format": manifest_file.FORMAT, "files": {"purposes.csv": {"sha256": "0"}}},
            ),
            "no SHA-256 sum",
        ),
        (
            zipped(
                {"purposes.csv": b"x"},
                {"format": manifest_file.FORMAT, "files": {"purposes.csv": {"sha256": "0" * 64}}},
            ),
            "The sum of",
        ),
    ],
)
def test_what_is_not_as_it_should_be_is_refused(data: bytes, says: str) -> None:
    with pytest.raises(UserError, match=says):
        unpack(data, "x.zip")


def test_a_bundle_cannot_unpack_without_limit(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(bundles, "LARGEST", 1000)
    with pytest.raises(UserError, match="unpacks to more"):
        unpack(zipped({"apps/a/commands.csv": b"0" * 2000}), "x.zip")
    monkeypatch.setattr(bundles, "MOST_FILES", 3)
    with pytest.raises(UserError, match="more than 3 files"):
        unpack(zipped({f"apps/a{n}/app.toml": b"" for n in range(5)}), "x.zip")
    lying = bytearray(zipped({"apps/a/commands.csv": b"0" * 900}))
    # The size in the directory says 1 where the file is longer.
    at = lying.rfind(b"PK\x01\x02")
    lying[at + 24 : at + 28] = (1).to_bytes(4, "little")
    with pytest.raises(UserError):
        unpack(bytes(lying), "x.zip")


GOOD = pack(Bundle(scope="desk", name="x", made="", files=FILES))


@given(
    st.binary(max_size=300)
    | st.lists(st.tuples(st.integers(0, len(GOOD) - 1), st.integers(0, 255)), max_size=8)
)
def test_whatever_comes_is_a_bundle_or_is_refused(noise: bytes | list[tuple[int, int]]) -> None:
    if isinstance(noise, bytes):
        data = noise
    else:
        changed = bytearray(GOOD)
        for at, value in noise:
            changed[at] = value
        data = bytes(changed)
    try:
        bundle = unpack(data, "x.zip")
    except UserError:
        return
    assert all(is_of_desk(path) for path in bundle.files)


@given(st.text(max_size=30))
def test_a_path_of_a_desk_stays_inside(path: str) -> None:
    for candidate in (path, f"schemes/{path}", f"apps/{path}/app.toml"):
        if is_of_desk(candidate):
            assert ".." not in candidate.split("/")
            assert Path("/desk", candidate).resolve().is_relative_to("/desk")


BASE = b'format = "x"\n\n[assign]\n"a" = "F1"\n"b" = "F2"\n\n[mute]\n"F9" = "x"\n'


def toml(old: str, new: str) -> bytes:
    assert old in BASE.decode()
    return BASE.decode().replace(old, new).encode()


def test_toml_is_merged_by_decision_and_comments_stay() -> None:
    ours = toml('"a" = "F1"', '# mine\n"a" = "F5"')
    theirs = toml('"b" = "F2"', '"b" = { keys = ["F6"], why = "y" }\n"c" = "F3"')
    merged = merge_file("s.toml", BASE, ours, theirs)
    assert not merged.conflicts
    assert (merged.data or b"").decode().splitlines() == [
        'format = "x"',
        "",
        "[assign]",
        "# mine",
        '"a" = "F5"',
        '"b" = { keys = ["F6"], why = "y" }',
        '"c" = "F3"',
        "",
        "[mute]",
        '"F9" = "x"',
    ]
    gone = toml('"F9" = "x"\n', "")
    assert b"F9" not in (merge_file("s.toml", BASE, ours, gone).data or b"")
    assert merge_file("s.toml", BASE, BASE, theirs).data == theirs
    assert merge_file("s.toml", BASE, ours, BASE).data == ours
    clashing = merge_file("s.toml", BASE, ours, toml('"a" = "F1"', '"a" = "F7"'))
    assert [(c.key, c.ours, c.theirs) for c in clashing.conflicts] == [
        (("assign", "a"), "F5", "F7")
    ]
    assert clashing.data == ours
    resolved = merge_file(
        "s.toml", BASE, ours, toml('"a" = "F1"', '"a" = "F7"'), lambda path, conflict: "theirs"
    )
    assert b'"a" = "F7"' in (resolved.data or b"")


def test_tables_are_merged_by_row_and_column() -> None:
    base_ = b"# f\nid,title,keys\na,A,F1\nb,B,F2\nc,C,\n"
    ours = b"# f\nid,title,keys\na,Alpha,F1\nc,C,\n"
    theirs = b"# f\nid,title,keys,one\na,A,F9,x\nb,B,F2,\nc,C,,\nd,D,F4,\n"
    merged = merge_file("apps/a/commands.csv", base_, ours, theirs)
    assert (merged.data or b"").decode().splitlines() == [
        "# f",
        "id,title,keys,one",
        "a,Alpha,F9,x",
        "c,C,,",
        "d,D,F4,",
    ]
    changed = theirs.replace(b"b,B,F2", b"b,B,F7")
    kept = merge_file("c.csv", base_, ours, changed, lambda path, conflict: "theirs")
    assert "b,B,F7" in (kept.data or b"").decode()
    assert [c.key for c in merge_file("c.csv", base_, ours, changed).conflicts] == ["b"]


def test_whole_files_and_logs() -> None:
    assert merge_file("d.json", None, None, b"x").data == b"x"
    assert merge_file("d.json", b"x", b"x", None).data is None
    conflict = merge_file("d.json", b"x", b"y", None)
    assert (conflict.data, len(conflict.conflicts)) == (b"y", 1)
    assert merge_file("l.jsonl", b"1\n", b"1\n2\n", b"1\n3\n").data == b"1\n2\n3\n"
    with pytest.raises(UserError, match="not TOML"):
        merge_file("s.toml", BASE, b"[", BASE + b"\n")


def test_a_key_set_keeps_its_comments_and_names_its_mistakes() -> None:
    text = b'format = "olive-compass-keyset/1"\ntitle = "T"\n\n[keys]\nsave = "Main+S"  # all\n'
    keyset = keyset_file.read(text, "k.toml", "k")
    assert str(keyset.keys["save"].triggers[0]) == "Main+S"
    after = replace(keyset, keys={**keyset.keys, "stop": Entry((key("Escape"), key("Pause")), "w")})
    edited = keyset_file.edited(text, keyset, after)
    assert b"# all" in edited
    assert keyset_file.read(edited, "k", "k") == after
    assert keyset_file.read(keyset_file.new_text(after), "k", "k") == after
    assert keyset_file.read(keyset_file.new_text(KeySet("k", "T")), "k", "k").keys == {}
    bad = text + b'stop = "Esccape"\nundo = []\nredo = 3\n'
    with pytest.raises(UserError, match=r"“stop”.*Line 7: .*Line 8: ") as refused:
        keyset_file.read(bad, "k.toml", "k")
    assert refused.value.line == 6


def test_what_git_is_told_is_taken_back() -> None:
    for before in ("", "*.png binary\n", "*.png binary"):
        block = with_block(before, ("*.toml merge=x",))
        assert "*.toml merge=x\n" in block
        assert with_block(block, ("*.toml merge=x",)) == block
        assert without_block(block).rstrip("\n") == before.rstrip("\n")


def test_the_manifest_of_a_bundle_fits_its_schema() -> None:
    import jsonschema

    schema = Path(__file__).parents[2] / "docs/formats/bundle.schema.json"
    with zipfile.ZipFile(
        io.BytesIO(pack(Bundle(scope="desk", name="x", made="now", files=FILES)))
    ) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    jsonschema.validate(manifest, json.loads(schema.read_text()))
