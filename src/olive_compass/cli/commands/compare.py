"""``compare``: two schemes, layers, key sets, versions, desks or bundles, decision by decision."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import json_option
from olive_compass.cli.sharing.differences import (
    counted_differences,
    plain,
    print_sections,
    sections_json,
    subject_title,
)
from olive_compass.cli.sharing.sides import compared, side, with_listing
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk

GROUP = "share"
ORDER = 30
SUMMARY = "What differs between two schemes, layers, key sets, desks or bundles"
EXAMPLES = """olive-compass compare quillmap/house quillmap/mine
olive-compass compare quillmap/factory quillmap/mine
olive-compass compare keyset:larkspur keyset:night
olive-compass compare quillmap listings/quillmap-5.csv
olive-compass compare . ../laptop
olive-compass compare . larkspur.zip
olive-compass compare quillmap/house quillmap/mine --as html > changes.html"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    for name, does in (("before", "the earlier side"), ("after", "the later side")):
        parser.add_argument(
            name,
            metavar=name.upper(),
            help=f"{does}: APP/SCHEME, APP/factory, keyset:NAME, APP, a listing, a desk's folder or a bundle",
        )
    parser.add_argument(
        "--as", dest="form", choices=("text", "html"), default="text", help="the form (text)"
    )
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    before, after = (side(at, around, given) for given in (args.before, args.after))
    before, after = (
        with_listing(at, around, before, after),
        with_listing(at, around, after, before),
    )
    sections = compared(before, after)
    whose: Desk = after.what if isinstance(after.what, Desk) else at
    if args.json:
        around.json(
            {"before": before.label, "after": after.label, "differences": sections_json(sections)}
        )
    elif args.form == "html":
        from olive_compass.drawing.comparison import as_html

        rows = [
            (section.name, subject_title(whose, section, each), plain(each))
            for section in sections
            for each in section.differences
        ]
        summary = counted_differences(sections)
        around.out.write(as_html(before.label, after.label, rows, summary))
    else:
        print_sections(around, whose, sections)
    return 0
