"""Decisions about nothing, modes, rules, guards, choices, and taking all of it back."""

import random
from pathlib import Path

import pytest
from hypothesis import settings

from tests.conftest import Ask, ask_in, contents

MINE = "schemes/quillmap/mine.toml"


def outcome(ask: Ask, app: str, key: str, mode: str = "everywhere") -> tuple[str, list[str]]:
    found = ask("press", app, key, "--mode", mode, "--json").json["outcomes"][0]
    return found["outcome"], [claim["title"] for claim in found["decided-by"]]


def test_bare_mute_and_guard_keep_their_reasons_and_are_cleared(ask: Ask, desk: Path) -> None:
    before = contents(desk)
    keyless = ask("keyless", "quillmap", "Preview plates", "--why", "slow")
    assert "F9 everywhere: was Preview plates (factory), now nothing." in keyless.out
    assert "the menu Sheet > Plates > Preview plates" in keyless.out
    assert outcome(ask, "quillmap", "F9") == ("nothing", [])
    assert "keyless (mine)" in ask("find", "preview plates").out
    left = ask("find", "preview plates", "--app", "quillmap", "--unassigned", "--json").json
    assert "plate.preview" not in {hit["command"] for hit in left["hits"]}
    muted = ask("mute", "quillmap", "shift+f7", "--mode", "draw", "--why", "slips")
    assert "Shift+F7 in draw: was Layer list (factory), now muted (mine, personal)." in muted.out
    assert outcome(ask, "quillmap", "Shift+F7", "vertex")[0] == "muted"
    assert outcome(ask, "quillmap", "Shift+F7", "label") == ("starts", ["Layer list"])
    assert (
        "It protects: Search the help (factory)."
        in ask("guard", "quillmap", "F1", "--why", "all").out
    )
    keeps, *inside = ask("guard", "quillmap", "F1", "-n", "--why", "all", "--json").json["effects"]
    assert (keeps["mode"], keeps["outcome"]["what"]) == ("everywhere", "starts")
    assert {each["outcome"]["what"] for each in inside} == {"starts"}
    text = (desk / MINE).read_text()
    for line in (
        '[keyless]\n"plate.preview" = "slow"\n',
        '[mute]\n"Shift+F7" = { modes = ["draw"], why = "slips" }\n',
        '[guard]\n"F1" = { keeps = "help.search", why = "all" }\n',
    ):
        assert line in text
    for what in ("Preview plates", "Shift+F7", "F1"):
        assert ask("clear", "quillmap", what).status == 0
    after = contents(desk)
    assert (desk / MINE).read_text().count("=") == before[MINE].decode().count("=")
    assert {k: v for k, v in after.items() if k != MINE} == {
        k: v for k, v in before.items() if k != MINE
    }


def test_a_guard_stops_an_assignment_unless_told_otherwise(ask: Ask) -> None:
    stopped = ask("assign", "quillmap", "Split", "Ctrl+Z", "--if-taken", "replace")
    assert (stopped.status, "guarded by house: every visitor expects it" in stopped.err) == (
        2,
        True,
    )
    assert "schemes/quillmap/house.toml:20" in stopped.err
    forced = ask(
        "assign", "quillmap", "Split", "Ctrl+Z", "--if-taken", "replace", "--despite", "guard"
    )
    assert forced.status == 0
    found = ask("check", "quillmap", "--json").json["findings"]
    guarded = [f for f in found if f["id"] == "guarded-key"]
    assert [(f["keys"], f["places"][0]["file"]) for f in guarded] == [(["Ctrl+Z"], MINE)]


def test_a_leak_is_found_and_narrowed(ask: Ask) -> None:
    leak = [
        f
        for f in ask("check", "quillmap", "--json").json["findings"]
        if f["id"] == "wider-than-needed"
    ]
    assert "overrides “Small capitals” there" in leak[0]["says"]
    assert ask("check", "quillmap", "--fix").status == 2
    fixed = ask("check", "quillmap", "--fix", "--yes")
    assert (
        "Ctrl+Shift+K in label: was Check closure (house), now Small capitals (factory)."
        in fixed.out
    )
    assert outcome(ask, "quillmap", "Ctrl+Shift+K", "draw") == ("starts", ["Check closure"])
    assert (
        ask("check", "quillmap", "--fix", "--yes").out
        == "There is nothing that can be repaired safely.\n"
    )
    nothing = ask("check", "quillmap", "--fix", "--yes", "--json").json
    assert (nothing["changed"], nothing["change"], nothing["findings"]) == (False, None, [])
    assert ask("undo").status == 0
    assert ask("check", "quillmap", "--fix", "--yes", "--as", "sarif").status == 2
    again = ask("check", "quillmap", "--fix", "--yes", "--json").json
    assert (again["changed"], again["files"]) == (True, ["schemes/quillmap/house.toml"])
    assert {each["id"] for each in again["findings"]} == {"wider-than-needed"}
    assert ask("undo").status == 0
    narrowed = ask("modes", "quillmap", "Check closure", "--scheme", "house")
    assert "applies in draw" in narrowed.out
    assert (
        "that is not narrower"
        in ask("modes", "quillmap", "Check closure", "--scheme", "house", "--only", "canvas").err
    )
    widened = ask("modes", "quillmap", "Check closure", "--scheme", "house", "--also", "label")
    assert "now Check closure (house)" in widened.out


def test_shared_keys_keep_their_order(ask: Ask) -> None:
    refused = ask("assign", "tagwright", "Hamlet", "Ctrl+1", "--if-taken", "share")
    assert refused.status == 2
    ask("scheme", "new", "tagwright/mine")
    assert (
        "does not share keys"
        in ask("assign", "tagwright", "Hamlet", "Ctrl+1", "--if-taken", "share").err
    )
    shared = ask("assign", "quillmap", "Join", "Ctrl+D", "--if-taken", "share")
    assert shared.status == 0
    assert outcome(ask, "quillmap", "Ctrl+D", "draw") == ("choice", ["Duplicate", "Join"])
    (offers,) = ask("choice", "quillmap", "Ctrl+D", "Join", "--json").json["effects"]
    assert offers == {
        "effect": "offers",
        "key": "Ctrl+D",
        "commands": ["lines.join", "edit.duplicate"],
    }
    assert outcome(ask, "quillmap", "Ctrl+D", "draw") == ("choice", ["Join", "Duplicate"])
    listed = ask("choice", "quillmap", "--json").json["choices"]
    assert [(row["key"], row["commands"]) for row in listed] == [
        ("Ctrl+D", ["lines.join", "edit.duplicate"])
    ]
    assert "does not offer Split" in ask("choice", "quillmap", "Ctrl+D", "Split").err


def test_a_limit_of_keys_lets_the_nearer_layer_push_out_the_lower_one(ask: Ask) -> None:
    ask("scheme", "new", "foldpress/mine")
    done = ask("assign", "foldpress", "Find page", "Ctrl+K")
    assert "Find page loses Ctrl+F, because Foldpress allows 1 key per command." in done.out
    assert "Ctrl+F is free in" in ask("press", "foldpress", "Ctrl+F").out
    refused = ask("assign", "foldpress", "Find page", "F11")
    assert (refused.status, "has Ctrl+K (mine)" in refused.err) == (2, True)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["assign", "foldpress", "Swap pages", "M"], "plain-keys"),
        (["assign", "foldpress", "Swap pages", "Alt+M"], "it takes no Alt"),
        (["assign", "foldpress", "Swap pages", "Alt+F4"], "Foldpress keeps Alt+F4 for itself"),
        (["assign", "foldpress", "Swap pages", "Ctrl+K Ctrl+S"], "longest-sequence"),
        (
            ["assign", "foldpress", "Varnish", "Ctrl+K"],
            "needs “varnish”, which this computer does not have",
        ),
        (["assign", "reliefkiln", "Old hachures", "Ctrl+K"], "withdrawn"),
        (["assign", "reliefkiln", "Erode", "F10"], "Reliefkiln keeps F10 for itself"),
        (["assign", "quillmap", "Split", "Meta+L"], "The operating system keeps Meta+L for itself"),
        (["mute", "quillmap", "Alt+Tab", "--why", "x"], "system has it"),
        (["mute", "foldpress", "F7", "--why", "x"], "--way never assigns F7 to “Service seat”"),
    ],
)
def test_rules_are_met_by_name(ask: Ask, desk: Path, words: list[str], says: str) -> None:
    ask("scheme", "new", "foldpress/mine")
    before = contents(desk)
    refused = ask(*words)
    assert (refused.status, contents(desk) == before) == (2, True)
    assert says in refused.err


def test_what_works_where_a_key_cannot_be_switched_off(ask: Ask) -> None:
    ask("scheme", "new", "foldpress/mine")
    never = ask("mute", "foldpress", "F7", "--why", "slow", "--way", "never")
    assert (
        "Check job: it has no other key, and you can still reach it from Press > Check job (Alt R C)."
        in never.out
    )
    assert "By a trick: Service seat gets it, which is never enabled." in never.out
    assert outcome(ask, "foldpress", "F7")[0] == "muted"
    assert "Service seat has it, which is never enabled" in ask("press", "foldpress", "F7").out
    steps = ask("worklist", "foldpress", "--json").json["steps"]
    assert ("help.service-seat", "F7") in {(s["command"], s["gets"]) for s in steps}
    ask("undo")
    before = ask("check", "foldpress", "--json").json
    away = ask("mute", "foldpress", "F7", "--why", "slow", "--way", "away")
    assert "By a trick: its command is moved to Ctrl+Shift+F24 in the application." in away.out
    steps = ask("worklist", "foldpress", "--json").json["steps"]
    assert ("press.check-job", "Ctrl+Shift+F24", "F7") in {
        (s["command"], s["gets"], s["loses"]) for s in steps
    }
    after = ask("check", "foldpress", "--json").json
    new = [f["id"] for f in after["findings"] if f not in before["findings"]]
    assert new == ["lost-last-key", "purpose-on-other-key"], "a trick is no finding"


def test_the_truth_about_an_unassigned_key(ask: Ask) -> None:
    found = ask("press", "foldpress", "F9", "--json").json["outcomes"][0]
    claim = found["decided-by"][0]
    assert (claim["layer"], claim["command"], claim["file"], claim["line"]) == (
        "unlisted",
        None,
        "apps/foldpress/app.toml",
        21,
    )
    ask("scheme", "new", "foldpress/mine")
    stopped = ask("assign", "foldpress", "Swap pages", "F9")
    assert (stopped.status, "Its own list does not show this" in stopped.out) == (2, True)
    given = ask("assign", "foldpress", "Swap pages", "F9", "--if-taken", "replace")
    assert "F9 no longer runs the last check again" in given.out
    assert (
        ask("press", "quillmap", "Meta+L", "--json").json["outcomes"][0]["decided-by"][0]["layer"]
        == "system"
    )


def test_rules_are_shown_set_and_refused(ask: Ask, desk: Path) -> None:
    done = ask(
        "app",
        "rules",
        "tagwright",
        "--set",
        "most-keys=2",
        "--set",
        "text-modes=text",
        "--unlisted",
        "F5=blinks",
        "--licence",
        "pro=yes",
        "--swipes",
        "text=4",
        "--reserved",
        "F6=shuts",
    )
    assert done.status == 0, done.err
    rules = ask("app", "rules", "tagwright", "--json").json
    assert (
        rules["most-keys"],
        rules["text-modes"],
        rules["unlisted"],
        rules["licences"],
        rules["swipes"],
    ) == (
        2,
        ["text"],
        {"F5": "blinks"},
        {"pro": True},
        {"text": 4},
    )
    before = contents(desk)
    for bad in (
        "most-kyes=2",
        "duplicates=maybe",
        "modifiers=Ctlr",
        "most-keys=two",
        "typed-sequences=perhaps",
        "x",
    ):
        assert ask("app", "rules", "tagwright", "--set", bad).status == 2, bad
    assert contents(desk) == before
    assert "F6: shuts" in ask("app", "rules", "tagwright").out


def test_findings_of_rules_slots_and_reflexes(ask: Ask, desk: Path) -> None:
    (desk / "schemes/reliefkiln/house.toml").write_text(
        (desk / "schemes/reliefkiln/house.toml")
        .read_text()
        .replace(
            "[guard]",
            '"sculpt.erode" = ["F10", "F11", "F12", "F9"]\n"shade.old-hachures" = "F4"\n\n[guard]',
        )
    )
    rules = desk / "apps/reliefkiln/app.toml"
    rules.write_text(rules.read_text().replace('"Harbour side"', '"Quay"'))
    found = {f["id"]: f for f in ask("check", "reliefkiln", "--json").json["findings"]}
    assert {
        "slip",
        "irreversible-on-habit-key",
        "slot-moved",
        "not-available",
        "reserved-key",
        "against-rules",
    } <= set(found)
    assert "for “Harbour side”, but the slot holds “Quay”" in found["slot-moved"]["says"]
    assert "lets a command have 2" in found["against-rules"]["says"]
    with (desk / MINE).open("a") as file:
        file.write(
            '\n[assign]\n"label.halo" = { keys = "O", modes = "label" }\n"lines.join" = [\n'
            '  { keys = "F10", modes = "draw" },\n  { keys = "F11", modes = "label" },\n]\n'
        )
    quillmap = {f["id"]: f for f in ask("check", "quillmap", "--json").json["findings"]}
    assert {"blocks-typing", "modes-differ", "overrides-lower"} <= set(quillmap)
    assert "access-letters" in ask("check", "foldpress").out
    assert "same-title" in ask("check", "tagwright").out


def test_findings_are_accepted_with_a_reason_and_severities_set(ask: Ask, desk: Path) -> None:
    strict = ask("check", "quillmap", "--strict")
    assert strict.status == 1
    names = [
        f for f in ask("check", "quillmap", "--json").json["findings"] if f["severity"] == "warning"
    ]
    for finding in names:
        subject = (*finding["commands"], *finding["keys"])[0]
        assert ask("accept", "quillmap", finding["id"], subject, "--why", "meant").status == 0
    after = ask("check", "quillmap", "--strict")
    assert (
        after.status,
        f"{len(names)} finding" in after.out,
        "accepted: meant" in after.out,
    ) == (0, True, True)
    first = (*names[0]["commands"], *names[0]["keys"])[0]
    assert ask("accept", "quillmap", names[0]["id"], first, "--remove").status == 0
    assert ask("check", "quillmap", "--strict").status == 1
    assert "check finds no same-press" in ask("accept", "quillmap", "same-press", "--why", "x").err
    with (desk / "desk.toml").open("a") as file:
        file.write('\n[severities]\nlost-last-key = "off"\nrun-begins-run = "error"\n')
    found = ask("check", "quillmap", "--json").json
    assert "lost-last-key" not in {f["id"] for f in found["findings"]}


def test_many_findings_of_one_kind_take_one_line_more(ask: Ask) -> None:
    ask("scheme", "new", "quillmap/mine")
    for key in ("Ctrl+N", "Ctrl+O", "Ctrl+W", "Ctrl+P"):
        assert ask("mute", "quillmap", key, "--why", "not here").status == 0
    said = ask("check", "quillmap").out
    lost = [
        f["commands"][0]
        for f in ask("check", "quillmap", "--json").json["findings"]
        if f["id"] == "lost-last-key"
    ]
    assert len(lost) > 3
    assert said.count("warning lost-last-key") == 2
    rest = f"and {len(lost) - 2} more lost-last-key: {'; '.join(lost[2:])}. To list them: --verbose"
    assert rest in " ".join(said.split())
    assert ask("check", "quillmap", "--verbose").out.count("warning lost-last-key") == len(lost)


def test_check_in_other_forms_and_since(ask: Ask) -> None:
    log = ask("check", "--as", "sarif").json
    findings = ask("check", "--json").json["findings"]
    assert (log["version"], len(log["runs"][0]["results"])) == ("2.1.0", len(findings))
    rules = log["runs"][0]["tool"]["driver"]["rules"]
    for result in log["runs"][0]["results"]:
        assert rules[result["ruleIndex"]]["id"] == result["ruleId"]
        assert all(
            place["physicalLocation"]["region"]["startLine"] > 0 for place in result["locations"]
        )
    from xml.etree import ElementTree

    suites = ElementTree.fromstring(ask("check", "--as", "junit").out)
    assert sum(int(suite.get("tests", 0)) for suite in suites) == len(findings)
    failures = sum(f["severity"] != "note" for f in findings)
    assert len(suites.findall(".//failure")) == failures
    ask("assign", "quillmap", "Preview plates", "F8", "--if-taken", "replace")
    new = ask("check", "quillmap", "--since", "factory", "--json").json["findings"]
    assert {f["id"] for f in new} >= {"lost-last-key"}
    assert "same-title" not in {f["id"] for f in new}
    above = ask("check", "quillmap", "--since", "house", "--json").json["findings"]
    lost = [f["commands"] for f in above if f["id"] == "lost-last-key"]
    assert lost == []
    hidden = next(f for f in above if f["id"] == "overrides-lower")
    assert "plate.preview" in hidden["commands"]
    assert "wider-than-needed" not in {f["id"] for f in above}
    ask("scheme", "new", "quillmap/old")
    assert "overrides-lower" in {
        f["id"] for f in ask("check", "quillmap", "--since", "old", "--json").json["findings"]
    }


def test_visitors_are_warned_worst_first(ask: Ask) -> None:
    words = ("assign", "quillmap", "Burn all plates", "Ctrl+N", "--if-taken", "replace")
    stopped = ask(*words)
    assert (stopped.status, "--despite keyless" in stopped.err) == (2, True)
    given = ask(*words, "--despite", "keyless")
    assert "house left it without a key on purpose: a plate costs money" in given.out
    assert (
        "People press Ctrl+N without thinking, and Burn all plates takes a long time and cannot be undone."
        in given.out
    )
    ask("assign", "quillmap", "Split", "Ctrl+D", "--if-taken", "replace")
    shown = ask("surprises", "quillmap", "--json").json
    assert [(s["key"], s["gets"], s["warning"]) for s in shown["surprises"][:2]] == [
        ("Ctrl+N", "Burn all plates", "takes a long time and cannot be undone"),
        ("Ctrl+D", "Split", None),
    ]
    assert 0 < shown["familiarity"] < 1
    knows_house = ask("surprises", "quillmap", "--knows", "house", "--json").json
    assert "Ctrl+Shift+E" not in {s["key"] for s in knows_house["surprises"]}
    assert ask("surprises", "tagwright", "--json").json["familiarity"] == 1


def test_projects_and_stacks(ask: Ask) -> None:
    assert ask("scheme", "new", "quillmap/harbour", "--project", "charts").status == 0
    ask("assign", "quillmap", "Sounding", "Q", "--scheme", "harbour")
    assert outcome(ask, "quillmap", "Q", "draw")[0] == "nothing"
    assert "quillmap/harbour" in ask("desk", "project", "charts").out
    assert outcome(ask, "quillmap", "Q", "draw") == ("starts", ["Sounding"])
    layers = [row["layer"] for row in ask("scheme", "stack", "quillmap", "--json").json["layers"]]
    assert layers == ["system", "reserved", "project", "personal", "house", "factory", "unlisted"]
    ask("desk", "project", "none")
    assert outcome(ask, "quillmap", "Q", "draw")[0] == "nothing"
    ask("scheme", "stack", "quillmap", "mine")
    assert outcome(ask, "quillmap", "Home")[0] == "nothing"


def test_reset_touches_only_what_was_named(ask: Ask, desk: Path) -> None:
    for words in (("Join", "F10"), ("Split", "F11"), ("Italic", "F12"), ("Sheet frame", "Ctrl+F9")):
        ask("assign", "quillmap", *words)
    full = (desk / MINE).read_bytes()
    assert ask("reset", "quillmap", "--command", "Join", "--dry-run").status == 0
    assert (desk / MINE).read_bytes() == full
    for option, gone in (
        (("--command", "Join"), "lines.join"),
        (("--key", "f11"), "lines.split"),
        (("--mode", "label"), "label.italic"),
    ):
        done = ask("reset", "quillmap", *option)
        assert (done.status, gone in (desk / MINE).read_text()) == (0, False), done.err
    assert "sheet.frame" in (desk / MINE).read_text()
    assert ask("reset", "quillmap", "--all").status == 2
    assert ask("reset", "quillmap", "--all", "--yes").status == 0
    assert "sheet.frame" not in (desk / MINE).read_text()
    assert ask("undo", "4").status == 0
    assert (desk / MINE).read_bytes() == full
    ask("scheme", "new", "quillmap/night", "--based-on", "mine")
    ask("clear", "quillmap", "lines.join")
    assert ask("reset", "quillmap", "--command", "lines.join", "--as-in", "night").status == 0
    assert outcome(ask, "quillmap", "F10", "draw") == ("starts", ["Join"])


def test_redo_and_undo_go_to_and_fro(ask: Ask, desk: Path) -> None:
    states = [contents(desk)]
    for words in (("Join", "F10"), ("Split", "F11"), ("Italic", "F12")):
        ask("assign", "quillmap", *words)
        states.append(contents(desk))
    assert ask("redo").status == 1
    ask("undo", "3")
    assert contents(desk) == states[0]
    ask("redo", "2")
    assert contents(desk) == states[2]
    ask("undo")
    assert contents(desk) == states[1]
    ask("redo", "2")
    assert contents(desk) == states[3]
    ask("undo")
    ask("assign", "quillmap", "Scree", "F11", "--if-taken", "replace")
    assert ask("redo").status == 1


def test_random_edits_undone_give_back_every_byte(desk: Path) -> None:
    draw = random.Random(7)
    commands = [
        "lines.join",
        "lines.split",
        "area.scree",
        "point.ford",
        "label.bold",
        "sheet.trim",
        "view.area",
    ]
    keys = [
        "F10",
        "Ctrl+D",
        "Q",
        "S P",
        "Alt+M",
        "Ctrl+Shift+=",
        "Ctrl++",
        "Num5",
        "swipe:300",
        "Ctrl+@KeyB",
    ]
    states = [contents(desk)]
    for _ in range(4 * settings().max_examples):
        command, key = draw.choice(commands), draw.choice(keys)
        words = draw.choice(
            [
                (
                    "assign",
                    "quillmap",
                    command,
                    key,
                    "--if-taken",
                    draw.choice(["replace", "share"]),
                    "--why",
                    draw.choice(["", "a “reason”", 'with "quotes" and \\ signs']),
                ),
                ("clear", "quillmap", command),
                ("clear", "quillmap", key),
                ("keyless", "quillmap", command, "--why", "b"),
                ("mute", "quillmap", key, "--why", "m"),
                ("guard", "quillmap", "F2", "--why", "g"),
                ("modes", "quillmap", command, "--only", "draw"),
                ("modes", "quillmap", command, "--everywhere"),
                ("reset", "quillmap", "--mode", "draw"),
                ("reset", "quillmap", "--key", key),
            ]
        )
        assert ask_in(desk, *words).status in (0, 2), words
        if contents(desk) != states[-1]:
            states.append(contents(desk))
    assert ask_in(desk, "check").status in (0, 1)
    for state in reversed(states[:-1]):
        assert ask_in(desk, "undo").status == 0
        assert contents(desk) == state


def test_routes_by_access_letters_and_hidden_alternates(ask: Ask, desk: Path) -> None:
    listing = "Title;Menu;Keys\n&Open;&File;Ctrl+O\n&Save;&File > &More;Ctrl+S\nE&xit;&File;F4\nR&&D;&Help;F5\n"
    (desk / "new.csv").write_text(listing)
    assert ask("app", "import", "Newcomer", "--from", "new.csv").status == 0
    shown = {c["command"]: c for c in ask("find", "--app", "newcomer", "--json").json["hits"]}
    assert [(c["title"], c["keyboard-route"]) for c in shown.values()] == [
        ("Open", "Alt F O"),
        ("Save", "Alt F M S"),
        ("Exit", "Alt F X"),
        ("R&D", ""),
    ]
    assert "File > More > Save (Alt F M S)" in ask("press", "newcomer", "Ctrl+S").out
    catalogue = desk / "apps/newcomer/commands.csv"
    text = catalogue.read_text().replace(
        "command,,letter:X", "command,,letter:X alternate:file.open"
    )
    catalogue.write_text(text)
    ask("scheme", "new", "newcomer/mine")
    muted = ask("mute", "newcomer", "Ctrl+O", "--why", "x")
    assert "its alternate “Exit” may show through with F4" in muted.out
    assert (
        "Open: it has no other key, and you can still reach it from File > Open (Alt F O)."
        in muted.out
    )


def test_explaining_an_assignment_looks_beyond_the_application(ask: Ask) -> None:
    told = ask("assign", "quillmap", "Join", "Ctrl+Enter", "--explain", "--dry-run").out
    assert "Ctrl+Enter in draw: was nothing, now Join (mine, personal)." in told
    assert (
        "Foldpress: Send to press (factory) everywhere - beware: Send to press cannot be undone"
        in told
    )
    assert "A false friend: Ctrl+Enter is “Join” in Quillmap" in told
    assert "Ctrl+Enter in Tagwright: End text (factory) in text" in told
    assert "commands with the same key are offered as a choice" in told


def test_guards_stop_every_change_and_not_its_repair(ask: Ask, desk: Path) -> None:
    before = contents(desk)
    for words in (
        ("mute", "quillmap", "Ctrl+Z", "--why", "x"),
        ("keyless", "quillmap", "edit.undo", "--why", "x"),
        ("keyless", "quillmap", "sheet.save", "--why", "x"),
    ):
        refused = ask(*words)
        assert (refused.status, "is guarded by house: every visitor expects it" in refused.err) == (
            2,
            True,
        )
        assert contents(desk) == before
    assert ask("mute", "quillmap", "Ctrl+Z", "--why", "x", "--despite", "guard").status == 0
    assert ask("clear", "quillmap", "Ctrl+Z").status == 0


def test_explaining_any_change_looks_beyond_the_application(ask: Ask) -> None:
    told = ask("mute", "quillmap", "F6", "--why", "x", "--explain", "--dry-run").out
    assert "F6 in Reliefkiln: Shade the whole sheet (factory) everywhere - beware" in told
    assert "switching a key off: it can" in told
    told = ask("keyless", "quillmap", "Preview plates", "--why", "x", "--explain", "--dry-run").out
    assert "F9 in Foldpress: " in told
