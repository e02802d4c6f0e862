"""What is said of a listing that was read: its columns, what became of each row, what changes by it."""

import shlex
from collections.abc import Iterator, Mapping, Sequence

from olive_compass.cli.files import STANDARD_INPUT
from olive_compass.cli.intake.guesses import rule_text, way_out
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF, YELLOW
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.apps.guesses import Guess
from olive_compass.core.apps.key_columns import own_keys_column
from olive_compass.core.apps.listing_result import Listing
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.rules import DUPLICATES, DUPLICATES_SAID
from olive_compass.core.keys.new_words import Unknown
from olive_compass.core.wording import by_number, clause, counted

MOST_SHOWN = 12

#: The most characters of a title in a sentence.
_LONGEST_SHOWN = 48


#: What the formats of listings are called.
_FORMS = {
    "json_rows": "JSON",
    "delimited": "a table",
    "workbook": "a workbook",
    "page": "a page",
    "markdown": "Markdown",
    "lines": "lines of text",
    "ruled": "text in columns",
    "binding_lines": "settings, line by line",
    "text_lines": "text, line by line",
    "paper": "a PDF",
    "structured": "names and values",
    "text_document": "a document",
    "open_document": "a document",
    "shortcuts": "a shortcuts file",
}

#: The formats whose note says what the file is.
_SAID_BY_NOTE = ("json_rows", "text_document", "open_document")


def _odd_cells(listing: Listing) -> Iterator[tuple[str, str]]:
    """Rows about cells with typed sequences or control characters, where there are any."""
    if listing.typed:
        says = f"cells such as “GD” are sequences of up to {listing.typed} letters"
        yield "typed sequences", says
    if listing.cleaned:
        yield "cleaned", f"control characters taken out of {listing.cleaned} cells"


def _set_aside(listing: Listing) -> Iterator[tuple[str, str]]:
    """A row with the number of those that could not be read, where there are any."""
    if listing.set_aside:
        yield "set aside", f"{len(listing.set_aside)} that could not be read:"


def say_what_was_read(
    file: str,
    context: Surroundings,
    format_name: str,
    note: str,
    listing: Listing,
    platform: str,
) -> None:
    """Reports how a listing was read: its columns, its commands, and the rows set aside."""
    whence = file
    if file == STANDARD_INPUT:
        whence = "standard input"
    form = _FORMS.get(format_name, format_name)
    # Of these the note is the form, said more exactly.
    if note and (format_name in _SAID_BY_NOTE or note.startswith(form)):
        form, note = note, ""
    context.report(f"{BOLD}Read {whence}{OFF} as {form}{clause(' ({})', note)}.")
    # One line is the answer; the account below it is for who looks on.
    if context.quiet:
        return
    if listing.few_keys:
        other = " To read the keys from another column: --column keys=HEADING"
        context.say(
            f"{YELLOW}Few keys{OFF}: only {listing.catalogue.keyed_count} of {listing.rows} rows have a key."
            f"{'' if listing.own_heads else other}"
        )
    print_fields(
        context,
        [
            # A shortcuts file has no columns: its format says where the parts of a record are.
            ("columns", "" if format_name == "shortcuts" else _columns(listing)),
            ("parts", _parts(listing)),
            ("read", _account(listing)),
            (
                "not used",
                "; ".join(f"“{name}” (such as “{sample[:40]}”)" for name, sample in listing.unused),
            ),
            ("to use one", _use(listing)),
            *_headings(listing),
            ("modes", ", ".join(listing.modes)),
            ("elsewhere", _elsewhere(listing, platform)),
            ("sequences", _sequences(listing)),
            ("capitals", _CAPITALS if listing.capitals else ""),
            ("given twice", _twice(listing)),
            *_odd_cells(listing),
            *_unknown_fields(listing.unknown),
            *_set_aside(listing),
        ],
    )
    for aside in listing.set_aside[:MOST_SHOWN]:
        context.say(f"    line {aside.line}, {aside.what} “{aside.text}”: {aside.why}")
    if len(listing.set_aside) > MOST_SHOWN:
        context.say(f"    and {len(listing.set_aside) - MOST_SHOWN} more, all in set-aside.csv")


def _columns(listing: Listing) -> str:
    """Which column each field was read from, and why."""
    if listing.mapped:
        return "a map: keys from column 1, modifiers from the headings, commands from the cells"
    if listing.own_heads:
        return ""
    columns = listing.columns
    told = [
        f"{_FIELD_NAMES.get(field, field)} from column {column + 1} ({columns.why[field]})"
        for field, column in sorted(columns.fields.items(), key=lambda item: item[1])
    ]
    return "; ".join(told)


def _parts(listing: Listing) -> str:
    """What each command has where the file has no columns: a page, a text, settings."""
    if listing.own_heads:
        fields = sorted(listing.columns.fields, key=lambda field: listing.columns.fields[field])
        return joined([_FIELD_NAMES.get(field, field) for field in fields])
    return ""


#: What people call the fields that we call otherwise.
_FIELD_NAMES = {"modes": "mode", "keys_elsewhere": "keys-elsewhere"}


#: The fields that a column which nobody knows may hold, the likeliest first.
_FIELDS = ("modes", "does", "menu", "kind", "id", "keys", "title")


def _use(listing: Listing) -> str:
    """The option that takes the first column which is not used, and what else it can be."""
    open_ = [field for field in _FIELDS if field not in listing.columns.fields]
    # A person's own keys are no field of a command: they make a scheme.
    own = own_keys_column(listing.unused)
    unused = [heading for heading, _ in listing.unused if heading != own]
    if not unused or not open_:
        return ""
    name = shlex.quote(unused[0])
    others = ""
    if open_[1:]:
        others = f" (or {', '.join(open_[1:])})"
    return f"--column {open_[0]}={name}{others}"


def _short(title: str) -> str:
    """A title that may be a sentence, as long as a line has room for it."""
    if len(title) <= _LONGEST_SHOWN:
        return title
    return f"{title[: _LONGEST_SHOWN - 1].rstrip()}…"


def _headings(listing: Listing) -> list[tuple[str, str]]:
    """How headings were read that can be read in two ways, and the option that reads them the other way."""
    told = []
    if listing.guessed_groups:
        some = ", ".join(f"“{text}”" for text in listing.guessed_groups[:3])
        more = ""
        if listing.guessed_groups[3:]:
            more = ", and others"
        told += [
            ("headings", f"read from rows with one cell: {some}{more}"),
            ("to change", "--groups no"),
        ]
    if listing.filled:
        told += [
            ("menus", f"{counted(listing.filled, 'row')} without one took that of the row above"),
            ("to change", "--groups no"),
        ]
    found = listing.situations
    if not found.headings:
        return told
    split = found.splits[0]
    one, other = _short(split.one.title), _short(split.other.title)
    evidence = f"because {split.key} starts “{one}” there and “{other}” elsewhere"
    keys = counted(len({each.key for each in found.splits}), "key")
    names = joined((f"“{path[-1]}”" for path in found.headings), 4)
    if listing.as_modes:
        taken = by_number(len(found.headings), "is read as a mode", "are read as modes")
        says = f"{names} {taken}, {evidence} ({keys} in all)"
        return [*told, ("headings", says), ("to change", "--headings menu")]
    may = by_number(len(found.headings), "may be a mode", "may be modes")
    says = f"{names} {may}, {evidence}"
    return [*told, ("headings", says), ("to change", "--headings mode")]


def _elsewhere(listing: Listing, platform: str) -> str:
    """That the document has the keys of the other platform as well."""
    count = sum(bool(c.keys_elsewhere) for c in listing.catalogue.commands)
    if not count:
        return ""
    whose = "a Mac"
    if platform == "mac":
        whose = "other computers"
    return f"keys of {counted(count, 'command')} on {whose}; desks there use those"


_CAPITALS = "a capital letter means Shift and that letter, because the list has both"


def _sequences(listing: Listing) -> str:
    if not listing.sequences:
        return ""
    texts = ", ".join(f"“{text}”" for text in listing.sequences)
    return f"keys one after another: {texts}"


def _twice(listing: Listing) -> str:
    """The keys that several commands have."""
    found = listing.twice
    told = (f"{run} ({', '.join(map(_short, titles[:3]))})" for run, titles in found)
    return joined(told, 4)


def _unknown_fields(unknown: Sequence[Unknown]) -> list[tuple[str, str]]:
    """The words that nobody knows, and how to say what they are."""
    if not unknown:
        return []
    told = [
        f"{each.word} {counted(each.times, 'time')}"
        + (f" ({each.proposal.rstrip('+')}?)" if each.proposal else "")
        for each in unknown[:MOST_SHOWN]
    ]
    some = [each for each in unknown if each.proposal][:3]
    say = " ".join(f"--spell '{each.word}={each.proposal}'" for each in some)
    return [("unknown", ", ".join(told)), ("to fix", say or "--spell 'WORD=KEY'")]


def _account(listing: Listing) -> str:
    """What became of every row: the figures add up to the rows that were read."""
    if listing.mapped:
        aside = clause(", {} set aside", listing.rows_aside)
        commands = counted(len(listing.catalogue.commands), "command")
        return (
            f"{counted(listing.mapped, 'row')}{aside}: {commands}, {counted(listing.keys, 'key')}"
        )
    parts = [
        (len(listing.catalogue.commands), "command"),
        (listing.groups, "group heading"),
        (listing.heads, "row of headings"),
        (listing.repeated, "repeat, its keys joined"),
        (listing.rows_aside, "set aside"),
    ]
    # What is no plain “s” in English.
    plural = {
        "row of headings": "rows of headings",
        "repeat, its keys joined": "repeats, their keys joined",
    }
    told = [
        f"{n} {name if n == 1 or name == 'set aside' else plural.get(name, name + 's')}"
        for n, name in parts
        if n
    ]
    return f"{counted(listing.rows, 'row')} = {' + '.join(told)}; {counted(listing.keys, 'key')}"


def say_guesses(context: Surroundings, name: str, told: Sequence[Guess], said_twice: bool) -> None:
    """What is taken for the application's rules, why, and how to say otherwise."""
    rows = [("guessed", f"{rule_text(each.rule, each.value)} ({each.because})") for each in told]
    if not said_twice and not any(each.rule == "duplicates" for each in told):
        rows.append(("guessed", DUPLICATES_SAID[DUPLICATES[0]]))
    if rows:
        rule = "duplicates"
        if told:
            rule = told[0].rule
        print_fields(context, [*rows, ("to change", way_out(name, rule))])


#: What people call several of the fields that a listing can leave out.
_STAYED = {"does": "descriptions", "kind": "kinds", "menu": "menus"}


def say_what_stays(context: Surroundings, stayed: Mapping[str, int]) -> None:
    """What is not in the listing, and was not taken away for that."""
    if not stayed:
        return
    fields = ", ".join(
        f"{_STAYED.get(field, field)} of {counted(n, 'command')}" for field, n in stayed.items()
    )
    context.report(
        f"Kept, because the listing says nothing about them: {fields}. "
        f"To clear them: --forget {next(iter(stayed))}"
    )
