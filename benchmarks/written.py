"""Documents that real programs write from one truth: a browser, a converter of documents, an office suite, a typesetter.

Each maker takes a language and rows (title, menu, keys), and gives the file's name and its bytes; None where the
program is not on this machine.
"""

import atexit
import html
import os
import shutil
import subprocess
import tempfile
from collections.abc import Callable, Iterable
from functools import cache
from pathlib import Path
from typing import Any

Rows = list[tuple[str, str, str]]
Made = tuple[str, bytes] | None
Maker = Callable[[Any, Rows], Made]

#: Languages whose letters the typesetter's own fonts have.
WESTERN = ("English", "German", "French", "Spanish")


def _by_menu(rows: Rows) -> dict[str, Rows]:
    found: dict[str, Rows] = {}
    for row in rows:
        found.setdefault(row[1], []).append(row)
    return found


def _run(words: Iterable[str | Path], given: bytes | None = None, **environ: str) -> bytes:
    done = subprocess.run(
        [str(word) for word in words],
        input=given,
        capture_output=True,
        check=True,
        timeout=120,
        env={**os.environ, **environ},
    )
    return done.stdout


# What the programs are given.


def markdown_tables(language: Any, rows: Rows) -> str:
    lines = []
    for menu, some in _by_menu(rows).items():
        lines += [f"\n## {menu}\n", f"| {language.heads[0]} | {language.heads[2]} |", "|:--|:--|"]
        lines += [f"| {title} | {keys} |" for title, _, keys in some]
    return "\n".join(lines) + "\n"


def markdown_lists(language: Any, rows: Rows) -> str:
    lines = []
    for menu, some in _by_menu(rows).items():
        lines += [f"\n## {menu}\n", *(f"- **{t}**: `{k}`" for t, _, k in some if k)]
    return "\n".join(lines) + "\n"


def markdown_terms(language: Any, rows: Rows) -> str:
    lines = []
    for menu, some in _by_menu(rows).items():
        lines += [f"\n## {menu}\n", *(f"{t}\n:   {k}\n" for t, _, k in some if k)]
    return "\n".join(lines) + "\n"


def _page(body: str, style: str = "") -> str:
    return f'<!DOCTYPE html><html><head><meta charset="utf-8"><style>{style}</style></head><body>{body}</body></html>'


def _kbd(keys: str, language: Any) -> str:
    either = f" {language.or_} "
    return either.join(
        "+".join(f"<kbd>{html.escape(part)}</kbd>" for part in key.split("+"))
        for key in keys.split(either)
    )


def page_tables(language: Any, rows: Rows, rules: bool = True) -> str:
    body = ""
    for menu, some in _by_menu(rows).items():
        lines = "".join(
            f"<tr><td>{html.escape(t)}</td><td>{html.escape(k)}</td></tr>" for t, _, k in some
        )
        head = f"<tr><th>{language.heads[0]}</th><th>{language.heads[2]}</th></tr>"
        body += f"<h2>{menu}</h2><table>{head}{lines}</table>"
    edge = (
        "td, th { border: 1px solid black; padding: 3px }"
        if rules
        else "td { padding: 3px 40px 3px 0 }"
    )
    return _page(body, f"table {{ border-collapse: collapse }} {edge}")


def page_lists(language: Any, rows: Rows) -> str:
    body = ""
    for menu, some in _by_menu(rows).items():
        lines = "".join(f"<li>{t}: {_kbd(k, language)}</li>" for t, _, k in some if k)
        body += f"<h2>{menu}</h2><ul>{lines}</ul>"
    return _page(body)


def page_card(language: Any, rows: Rows, columns: int, keys_first: bool) -> str:
    body = ""
    for menu, some in _by_menu(rows).items():
        lines = ""
        for title, _, keys in some:
            if keys:
                cells = [f"<b>{html.escape(keys)}</b>", f"<span>{html.escape(title)}</span>"]
                lines += f"<div>{''.join(cells if keys_first else cells[::-1])}</div>"
        body += f"<section><h2>{menu}</h2>{lines}</section>"
    style = (
        "@page { size: A4 landscape; margin: 12mm } body { font: 9pt sans-serif }"
        f" main {{ columns: {columns}; column-gap: 14mm }} section {{ break-inside: avoid }}"
        " h2 { font-size: 12pt; margin: 8px 0 } div { display: grid; grid-template-columns: 1fr 1fr;"
        " gap: 8mm } b { font-weight: normal }"
    )
    return _page(f"<h1>{language.heads[2]}</h1><main>{body}</main>", style)


def comma_parted(language: Any, rows: Rows) -> str:
    lines = [language.heads, *rows]
    return "\n".join(",".join(f'"{cell}"' for cell in line) for line in lines) + "\n"


def typeset_tables(language: Any, rows: Rows, boxed: bool = False) -> str:
    """Source for the typesetter, with its preprocessor for tables."""
    lines = []
    for menu, some in _by_menu(rows).items():
        lines += [
            ".SH",
            menu,
            ".LP",
            ".TS",
            "allbox tab(@);" if boxed else "tab(@);",
            "lb lb",
            "l l.",
        ]
        lines += [f"{language.heads[0]}@{language.heads[2]}", *(f"{t}@{k}" for t, _, k in some)]
        lines += [".TE"]
    return "\n".join(lines) + "\n"


def typeset_terms(language: Any, rows: Rows) -> str:
    """A page of a handbook at the terminal: terms, and what stands below each."""
    lines = [".TH ODD 1"]
    for menu, some in _by_menu(rows).items():
        lines += [f'.SH "{menu}"']
        for title, _, keys in some:
            if keys:
                lines += [".TP", f".B {keys}", title]
    return "\n".join(lines) + "\n"


# The programs.


@cache
def _profile(program: str) -> str:
    """A folder for what a program keeps of itself: made anew each time, it would take half of its time."""
    folder = tempfile.TemporaryDirectory(prefix=program)
    atexit.register(folder.cleanup)
    return folder.name


def _browser() -> str:
    names = ("chromium", "chromium-browser", "google-chrome")
    return next((found for name in names if (found := shutil.which(name))), "")


def printed(page: Callable[[Any, Rows], str]) -> Maker:
    """A page as the browser prints it."""

    def make(language: Any, rows: Rows) -> Made:
        if not _browser():
            return None
        with tempfile.TemporaryDirectory() as folder:
            source, out = Path(folder, "a.html"), Path(folder, "a.pdf")
            source.write_text(page(language, rows), "utf-8")
            words = (
                "--headless",
                "--no-sandbox",
                "--disable-gpu",
                f"--user-data-dir={_profile('browser')}",
            )
            _run(
                [
                    _browser(),
                    *words,
                    f"--print-to-pdf={out}",
                    "--no-pdf-header-footer",
                    source.as_uri(),
                ]
            )
            return "a.pdf", out.read_bytes()

    return make


def saved(page: Callable[[Any, Rows], str]) -> Maker:
    """A page as the browser saves it, once it is laid out."""

    def make(language: Any, rows: Rows) -> Made:
        if not _browser():
            return None
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder, "a.html")
            source.write_text(page(language, rows), "utf-8")
            words = (
                "--headless",
                "--no-sandbox",
                "--disable-gpu",
                f"--user-data-dir={_profile('browser')}",
            )
            return "a.html", _run([_browser(), *words, "--dump-dom", source.as_uri()])

    return make


def converted(text: Callable[[Any, Rows], str], form: str, ending: str) -> Maker:
    """Markdown as a converter of documents writes it in another form."""

    def make(language: Any, rows: Rows) -> Made:
        if not shutil.which("pandoc"):
            return None
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder, f"a.{ending}")
            words = [
                "pandoc",
                "-f",
                "markdown",
                "-t",
                form,
                "-s",
                "--metadata",
                "title=Odd",
                "-o",
                out,
            ]
            _run(words, text(language, rows).encode())
            return out.name, out.read_bytes()

    return make


def office(text: Callable[[Any, Rows], str], ending: str, form: str, filter_: str = "") -> Maker:
    """A page or a table as an office suite keeps it in a form of its own, or prints it."""

    def make(language: Any, rows: Rows) -> Made:
        if not shutil.which("soffice"):
            return None
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder, f"a.{ending}")
            source.write_text(text(language, rows), "utf-8")
            read = ["--infilter=CSV:44,34,76,1"] if ending == "csv" else []
            read += ["--writer"] if ending == "html" and form != "ods" else []
            words = [f"-env:UserInstallation=file://{_profile('office')}", "--headless", *read]
            _run(["soffice", *words, "--convert-to", filter_ or form, "--outdir", folder, source])
            return f"a.{form}", Path(folder, f"a.{form}").read_bytes()

    return make


@cache
def can_typeset(macros: str) -> bool:
    """Whether there is a typesetter that has these macros: some systems come with a part of it."""
    if not shutil.which("groff"):
        return False
    tried = ["groff", f"-{macros}", "-T", "utf8"]
    return subprocess.run(tried, input=b"", capture_output=True, check=False).returncode == 0


def typeset(text: Callable[[Any, Rows], str], macros: str, form: str, ending: str) -> Maker:
    """A text as a typesetter sets it, on paper or for the terminal."""

    def make(language: Any, rows: Rows) -> Made:
        if not can_typeset(macros) or (form == "pdf" and not shutil.which("gropdf")):
            return None
        words = ["groff", "-K", "utf8", "-t", f"-{macros}", "-T", form]
        return f"a.{ending}", _run(words, text(language, rows).encode(), GROFF_NO_SGR="1")

    return make


def _card(columns: int, keys_first: bool) -> Callable[[Any, Rows], str]:
    return lambda language, rows: page_card(language, rows, columns, keys_first)


def _without_rules(language: Any, rows: Rows) -> str:
    return page_tables(language, rows, rules=False)


def _boxed(language: Any, rows: Rows) -> str:
    return typeset_tables(language, rows, boxed=True)


#: What wrote it: the maker, whether it has commands without a key, and whether it has menus.
WRITTEN: dict[str, tuple[Maker, bool, bool]] = {
    "browser, tables printed": (printed(page_tables), True, True),
    "browser, tables without lines": (printed(_without_rules), True, True),
    "browser, lists printed": (printed(page_lists), False, True),
    "browser, two columns": (printed(_card(2, False)), False, True),
    "browser, two columns, keys first": (printed(_card(2, True)), False, True),
    "browser, three columns": (printed(_card(3, False)), False, True),
    "browser, tables saved": (saved(page_tables), True, True),
    "browser, lists saved": (saved(page_lists), False, True),
    "converter, tables as HTML": (converted(markdown_tables, "html", "html"), True, True),
    "converter, tables as DOCX": (converted(markdown_tables, "docx", "docx"), True, True),
    "converter, tables as ODT": (converted(markdown_tables, "odt", "odt"), True, True),
    "converter, tables as text": (converted(markdown_tables, "plain", "txt"), True, True),
    "converter, tables as Markdown": (converted(markdown_tables, "gfm", "md"), True, True),
    "converter, lists as HTML": (converted(markdown_lists, "html", "html"), False, True),
    "converter, lists as DOCX": (converted(markdown_lists, "docx", "docx"), False, True),
    "converter, lists as ODT": (converted(markdown_lists, "odt", "odt"), False, True),
    "converter, lists as text": (converted(markdown_lists, "plain", "txt"), False, True),
    "converter, terms as HTML": (converted(markdown_terms, "html", "html"), False, True),
    "office, workbook": (office(comma_parted, "csv", "xlsx"), True, True),
    "office, open workbook": (office(comma_parted, "csv", "ods"), True, True),
    "office, page as ODT": (office(page_tables, "html", "odt"), True, True),
    "office, page as DOCX": (
        office(page_tables, "html", "docx", "docx:MS Word 2007 XML"),
        True,
        True,
    ),
    "office, page printed": (
        office(page_tables, "html", "pdf", "pdf:writer_web_pdf_Export"),
        True,
        True,
    ),
    "office, lists as ODT": (office(page_lists, "html", "odt"), False, True),
    "office, lists printed": (
        office(page_lists, "html", "pdf", "pdf:writer_web_pdf_Export"),
        False,
        True,
    ),
    "typesetter, tables": (typeset(typeset_tables, "ms", "pdf", "pdf"), True, True),
    "typesetter, boxed tables": (typeset(_boxed, "ms", "pdf", "pdf"), True, True),
    "typesetter, tables as text": (typeset(typeset_tables, "ms", "utf8", "txt"), True, True),
    "typesetter, handbook": (typeset(typeset_terms, "man", "utf8", "txt"), False, True),
}
