"""Documents with the same truth in seven languages, each held against it: listings in twelve shapes, the documents of
the tests, and what real programs write (``written.py``).

Usage: python -m benchmarks.listings [--all] [--speed]

Prints, for each document, how many commands, keys and menus were read of those that there are, and what was
named as not read. Exits 1 where a command or a key is neither read nor named. What programs write is in one language
each; --all has them in each whose letters the fonts at hand have.

With --speed it times reading 100,000 rows, as a process, in turn with pandas reading the same file (extra
“bench”), and what memory each takes; exits 1 where an aim is missed.
"""

import csv
import io
import json
import os
import random
import string
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from typing import Any, NamedTuple

from benchmarks.written import WESTERN, WRITTEN, Maker
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.keys.cells import read_cell
from olive_compass.core.keys.reading import read_trigger
from olive_compass.desk.importing import read_rows
from tests.core import documents


class Language(NamedTuple):
    """How a language writes what a listing has: headings, no key, or, modifiers and keys, menus, titles."""

    heads: tuple[str, str, str]
    none: str
    or_: str
    words: dict[str, str]
    menus: tuple[str, str, str]
    titles: tuple[str, ...]


LANGUAGES = {
    "English": Language(
        ("Command", "Menu", "Shortcut"),
        "none",
        "or",
        {},
        ("File", "Edit", "View"),
        (
            "Save",
            "Save a copy",
            "Close all",
            "Undo",
            "Find next",
            "Drop it",
            "Page back",
            "Whole sheet",
        ),
    ),
    "German": Language(
        ("Befehl", "Menü", "Tastenkürzel"),
        "nicht belegt",
        "oder",
        {
            "Ctrl": "Strg",
            "Shift": "Umschalt",
            "PageUp": "Bild auf",
            "Delete": "Entf",
            "Home": "Pos1",
        },
        ("Datei", "Bearbeiten", "Ansicht"),
        (
            "Sichern",
            "Kopie sichern",
            "Alle schließen",
            "Zurück",
            "Weiter suchen",
            "Fort",
            "Seite",
            "Blatt",
        ),
    ),
    "French": Language(
        ("Commande", "Chemin", "Raccourci clavier"),
        "aucun",
        "ou",
        {"Shift": "Maj", "PageUp": "Page préc.", "Delete": "Suppr", "Home": "Origine"},
        ("Fichier", "Édition", "Affichage"),
        (
            "Garder",
            "Garder une copie",
            "Tout fermer",
            "Défaire",
            "Suivant",
            "Jeter",
            "Page",
            "Feuille",
        ),
    ),
    "Spanish": Language(
        ("Comando", "Menú", "Atajo"),
        "ninguno",
        "or",
        {"Shift": "Mayús", "PageUp": "RePág", "Delete": "Supr", "Home": "Inicio"},
        ("Archivo", "Edición", "Ver"),
        (
            "Guardar",
            "Guardar copia",
            "Cerrar todo",
            "Deshacer",
            "Siguiente",
            "Quitar",
            "Página",
            "Hoja",
        ),
    ),
    "Polish": Language(
        ("Polecenie", "Ścieżka", "Skrót"),
        "brak",
        "lub",
        {"PageUp": "Strona w górę", "Delete": "Usuń", "Home": "Początek"},
        ("Plik", "Edycja", "Widok"),
        ("Zapisz", "Zapisz kopię", "Zamknij", "Cofnij", "Następny", "Odrzuć", "Strona", "Arkusz"),
    ),
    "Russian": Language(
        ("Команда", "Меню", "Горячая клавиша"),
        "нет",
        "или",
        {"PageUp": "Страница вверх", "Delete": "Удалить", "Home": "Начало"},
        ("Файл", "Правка", "Вид"),
        ("Сохранить", "Копия", "Закрыть все", "Вернуть", "Далее", "Бросить", "Страница", "Лист"),
    ),
    "Japanese": Language(
        ("コマンド", "メニュー", "ショートカット"),
        "なし",
        "または",
        {"PageUp": "ページアップ", "Delete": "デリート", "Home": "ホーム"},
        ("ファイル", "編集", "表示"),
        (
            "保存",
            "コピーを保存",
            "すべて閉じる",
            "元に戻す",
            "次を検索",
            "捨てる",
            "前のページ",
            "全体",
        ),
    ),
}

#: The menu (by number) and the keys of each title.
TRUTH: tuple[tuple[int, tuple[str, ...]], ...] = (
    (0, ("Ctrl+S",)),
    (0, ("Ctrl+Shift+S", "F12")),
    (0, ()),
    (1, ("Ctrl+Z",)),
    (1, ("F3",)),
    (1, ("Ctrl+Delete",)),
    (2, ("Alt+PageUp",)),
    (2, ("Home",)),
)

_Row = tuple[str, str, str]


def rows_in(language: Language) -> list[_Row]:
    """The rows of the truth as a language writes them: title, menu, keys."""
    found = []
    for title, (menu, keys) in zip(language.titles, TRUTH, strict=True):
        spelt = [
            "+".join(language.words.get(part, part) for part in key.split("+")) for key in keys
        ]
        found.append((title, language.menus[menu], f" {language.or_} ".join(spelt)))
    return found


def _parted(sign: str, quote: str = '"') -> Callable[[Language, list[_Row]], str]:
    def write(language: Language, rows: list[_Row]) -> str:
        lines = [language.heads, *((t, m, k or language.none) for t, m, k in rows)]
        return "\n".join(sign.join(f"{quote}{c}{quote}" for c in line) for line in lines) + "\n"

    return write


def _by_menu(rows: list[_Row]) -> dict[str, list[_Row]]:
    found: dict[str, list[_Row]] = {}
    for row in rows:
        found.setdefault(row[1], []).append(row)
    return found


def _objects(language: Language, rows: list[_Row]) -> str:
    heads = language.heads
    return json.dumps([dict(zip(heads, row, strict=True)) for row in rows], ensure_ascii=False)


def _tables(language: Language, rows: list[_Row]) -> str:
    """Minified, a table a menu, an empty cell where there is no key."""
    head = f"<tr><th>{language.heads[0]}</th><th>{language.heads[2]}</th></tr>"
    parts = []
    for menu, some in _by_menu(rows).items():
        body = "".join(f"<tr><td>{t}</td><td>{k or '&nbsp;'}</td></tr>" for t, _, k in some)
        parts.append(f"<h2>{menu}</h2><table>{head}{body}</table>")
    return "<html><body>" + "".join(parts) + "</body></html>"


def _spanned(language: Language, rows: list[_Row]) -> str:
    """One table, menus as headings across it, keys on lines of their own."""
    lines = [f"<tr><td>{language.heads[0]}</td><td>{language.heads[2]}</td></tr>"]
    for menu, some in _by_menu(rows).items():
        lines.append(f"<tr><td colspan=2><b>{menu}</b></td></tr>")
        for title, _, keys in some:
            cell = keys.replace(f" {language.or_} ", "<br>")
            lines.append(f"<tr><td>{title}</td><td>{cell}</td></tr>")
    return "<table>\n" + "\n".join(lines) + "\n</table>"


def _terms(language: Language, rows: list[_Row]) -> str:
    """A list of terms has no command without a key."""
    parts = [f"<dt>{keys}<dd>{title}" for title, _, keys in rows if keys]
    return "<dl>" + "".join(parts) + "</dl>"


def _markdown(language: Language, rows: list[_Row]) -> str:
    lines = []
    for menu, some in _by_menu(rows).items():
        lines += [
            "",
            f"## {menu}",
            "",
            f"| {language.heads[0]} | {language.heads[2]} |",
            "|---|---|",
        ]
        lines += [f"| {title} | {f'`{keys}`' if keys else ''} |" for title, _, keys in some]
    return "\n".join(lines) + "\n"


def _indented(language: Language, rows: list[_Row]) -> str:
    lines = []
    for menu, some in _by_menu(rows).items():
        lines.append(menu)
        lines += [f"    {t} {'.' * (30 - len(t))} {k}" if k else f"    {t}" for t, _, k in some]
    return "\n".join(lines) + "\n"


def _ruled(language: Language, rows: list[_Row]) -> str:
    lines = ["".join(head.ljust(24) for head in language.heads), "-" * 72]
    lines += ["".join(cell.ljust(24) for cell in row).rstrip() for row in rows]
    return "\n".join(lines) + "\n"


def _signed(language: Language, rows: list[_Row]) -> str:
    return "\n".join(f"{title}: {keys or language.none}" for title, _, keys in rows) + "\n"


def _workbook(language: Language, rows: list[_Row]) -> bytes:
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    for line in (language.heads, *rows):
        sheet.append(line)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


#: The shape, the file's name, how it is written, and whether it has menus.
SHAPES: dict[str, tuple[str, Callable[[Language, list[_Row]], str | bytes], bool]] = {
    "CSV": ("a.csv", _parted(","), True),
    "semicolons": ("a.csv", _parted(";", ""), True),
    "tabs": ("a.tsv", _parted("\t", ""), True),
    "workbook": ("a.xlsx", _workbook, True),
    "JSON": ("a.json", _objects, True),
    "minified page": ("a.html", _tables, True),
    "page, one table": ("a.html", _spanned, True),
    "list of terms": ("a.html", _terms, False),
    "Markdown": ("a.md", _markdown, True),
    "indented text": ("a.txt", _indented, True),
    "ruled text": ("a.txt", _ruled, True),
    "title: key": ("a.txt", _signed, False),
}


#: What reading may take beside pandas: time as CSV, as JSON and as a workbook; and memory.
AIMS = {"csv": 2.5, "json": 2.5, "xlsx": 1.1}
MEMORY_AIM = 1.5

_OURS = """
import sys, resource
from olive_compass.cli.main import main as _
from olive_compass.desk.importing import read_rows
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import ListingRequest
import gc; gc.disable()
with open(sys.argv[1], "rb") as file:
    rows = read_rows(sys.argv[1], file.read())[1].rows
assert len(read_listing(rows, ListingRequest()).catalogue.commands) == 99_990
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""
_PANDAS = """
import sys, resource
import pandas
path = sys.argv[1]
if path.endswith("csv"):
    table = pandas.read_csv(path, dtype=str)
elif path.endswith("json"):
    table = pandas.read_json(path, dtype=False)
else:
    table = pandas.read_excel(path, dtype=str)
assert len(table) == 99_990
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""


def speed() -> int:
    """Times both in turn, and prints the least time of each, the ratio, and the memory."""
    missed = False
    with tempfile.TemporaryDirectory() as folder:
        for kind, aim in AIMS.items():
            path = os.path.join(folder, f"list.{kind}")
            _write_long(path)
            rounds = 1 if kind == "xlsx" else 5
            figures = [(_timed(_OURS, path), _timed(_PANDAS, path)) for _ in range(rounds)]
            ours, theirs = (min(pair[n][0] for pair in figures) for n in (0, 1))
            memory = figures[0][0][1] / figures[0][1][1]
            missed |= ours / theirs > aim or memory > MEMORY_AIM
            print(
                f"{kind:<6} ours {ours:.2f} s, pandas {theirs:.2f} s: {ours / theirs:.2f} (aim {aim}); "
                f"memory {memory:.2f} (aim {MEMORY_AIM})"
            )
    return 1 if missed else 0


def _timed(code: str, path: str) -> tuple[float, int]:
    """Seconds of the whole process, and the most memory that it took."""
    begun = time.perf_counter()
    done = subprocess.run([sys.executable, "-c", code, path], capture_output=True, check=True)
    return time.perf_counter() - begun, int(done.stdout)


def _write_long(path: str) -> None:
    """A listing of 99,990 commands, as an application might write it."""
    chosen = random.Random(3)
    held = ["Ctrl", "Alt", "Shift", "Ctrl+Shift", "Ctrl+Alt"]
    keys = [*string.ascii_uppercase, *(f"F{n}" for n in range(1, 13)), "Home", "PageUp"]
    rows = [("id", "title", "menu", "keys", "mode", "does")]
    for n in range(99_990):
        key = f"{chosen.choice(held)}+{chosen.choice(keys)}" if n % 3 else ""
        menu = f"Menu {n % 40} > Sub {n % 300}"
        mode = ("draw", "label", "")[n % 3]
        rows.append(
            (f"cmd.{n}", f"Command number {n}", menu, key, mode, f"Does the thing number {n}")
        )
    if path.endswith("xlsx"):
        import openpyxl

        book = openpyxl.Workbook(write_only=True)
        sheet = book.create_sheet()
        for row in rows:
            sheet.append(row)
        book.save(path)
        return
    with open(path, "w", newline="", encoding="utf-8") as file:
        if path.endswith("csv"):
            csv.writer(file).writerows(rows)
        else:
            json.dump([dict(zip(rows[0], row, strict=True)) for row in rows[1:]], file)


def main() -> int:
    if "--speed" in sys.argv[1:]:
        return speed()
    everything = "--all" in sys.argv[1:]
    print(f"{'document':<36}{'commands':>12}{'keys':>12}{'menus':>12}   not read, but named")
    results = [shows() for shows in documents_shown(everything).values()]
    print(
        f"{len(results)} documents, {sum(result is None for result in results)} of them not made here"
    )
    return 1 if False in results else 0


def documents_shown(everything: bool = False) -> dict[str, Callable[[], bool | None]]:
    """All documents by name, each as what reads and shows it: whether all of it was read or named, None where
    its program is not here."""
    in_each = {**_shapes(), **_own_documents()}
    others = [name for name in LANGUAGES if name != "English"]
    found = {}
    for n, (name, made) in enumerate(in_each.items()):
        # English, and another language by turns.
        two = ["English", others[n % len(others)]]
        found[name] = partial(_shown, name, list(LANGUAGES) if everything else two, *made)
    for n, (name, made) in enumerate(WRITTEN.items()):
        # The fonts of other letters are not on every machine, and a program takes seconds.
        names = WESTERN if name.startswith("typesetter") else tuple(LANGUAGES)[:6]
        chosen = list(names) if everything else [names[n % len(names)]]
        found[name] = partial(_shown, name, chosen, *made)
    return found


def _shapes() -> dict[str, tuple[Maker, bool, bool]]:
    """The shapes of listings as makers of documents: whether they have commands without a key, and menus."""

    def maker(name: str, write: Callable[[Language, list[_Row]], str | bytes]) -> Maker:
        def make(language: Any, rows: list[_Row]) -> tuple[str, bytes]:
            text = write(language, rows)
            return name, text if isinstance(text, bytes) else text.encode()

        return make

    return {
        shape: (maker(name, write), shape != "list of terms", has_menus)
        for shape, (name, write, has_menus) in SHAPES.items()
    }


def _own_documents() -> dict[str, tuple[Maker, bool, bool]]:
    """The documents of the tests, of the truth in each language."""

    def maker(name: str, write: Callable[[], bytes]) -> Maker:
        def make(language: Any, rows: list[_Row]) -> tuple[str, bytes] | None:
            if name.endswith(".pdf") and language is not LANGUAGES["English"]:
                # The font that they are drawn with has no other letters.
                return None
            truth: dict[str, dict[str, str]] = {}
            for title, menu, keys in rows:
                truth.setdefault(menu, {})[title] = keys.replace(f" {language.or_} ", " or ")
            documents.TRUTH.clear()
            documents.TRUTH.update(truth)
            return name, write()

        return make

    # What is aria-keyshortcuts is written by the standard, in English.
    return {
        name: (maker(name, write), whole, True)
        for name, (write, whole) in documents.DOCUMENTS.items()
        if not name.startswith("aria")
    }


def _shown(
    name: str, languages: list[str], make: Maker, keyless: bool, has_menus: bool
) -> bool | None:
    """Reads a document in each language, and prints what was read; whether all was read or named, None where its
    program is not here."""
    counts = [0] * 6
    named: list[str] = []
    whole = True
    made_any = False
    for title in languages:
        language = LANGUAGES[title]
        rows = [row for row in rows_in(language) if keyless or row[2]]
        made = make(language, rows)
        if made is None:
            continue
        made_any = True
        found = read_rows(*made)[1]
        request = ListingRequest(headings="menu", headed=found.headed)
        listing = read_listing(found.rows, request)
        told = _told(listing, language, has_menus, len(rows))
        counts = [a + b for a, b in zip(counts, told, strict=True)]
        aside = [each.text for each in (*found.set_aside, *listing.set_aside)]
        missing = _missing(listing, rows)
        lost = [title for title in missing if title not in " ".join(aside)]
        named += missing
        if lost:
            whole = False
            print(f"lost: {name}, {title}: {', '.join(lost)}")
    pairs = [f"{counts[n]}/{counts[n + 1]}" for n in (0, 2, 4)]
    line = "".join(f"{pair:>12}" for pair in pairs) if made_any else f"{'not made here':>36}"
    print(f"{name:<36}{line}   {', '.join(named)}", flush=True)
    return whole if made_any else None


def _missing(listing: Listing, rows: list[_Row]) -> list[str]:
    """The titles that were not read with all their keys."""
    known = {command.title: command for command in listing.catalogue.commands}
    return [
        title
        for title, _, keys in rows
        if title not in known or len(known[title].keys) < len(read_cell(keys).triggers)
    ]


def _told(listing: Listing, language: Language, has_menus: bool, count: int) -> list[int]:
    """Commands, keys and menus: of each how many were read rightly, and how many there are."""
    wanted = {
        title: (language.menus[menu], {str(read_trigger(key)) for key in keys})
        for title, (menu, keys) in zip(language.titles, TRUTH, strict=True)
    }
    known = {c.title: c for c in listing.catalogue.commands if c.title in wanted}
    keys = sum(len({str(k) for k in c.keys} & wanted[t][1]) for t, c in known.items())
    menus = sum(c.menu == (wanted[t][0],) for t, c in known.items()) if has_menus else 0
    total = sum(len(keys) for _, keys in TRUTH)
    return [len(known), count, keys, total, menus, count if has_menus else 0]


if __name__ == "__main__":
    sys.exit(main())
