"""One truth in many documents: sixteen commands, fifteen with keys, in three menus."""

import io
import plistlib
from collections.abc import Callable
from html import escape
from typing import Any

TRUTH: dict[str, dict[str, str]] = {
    "Sheet": {
        "New sheet": "Ctrl+N",
        "Open sheet": "Ctrl+O",
        "Save sheet": "Ctrl+S",
        "Save a copy": "Ctrl+Shift+S",
        "Trim to frame": "F6",
        "Flatten layers": "",
    },
    "Draw": {
        "Spline": "Alt+S",
        "Join lines": "Ctrl+D or F9",
        "Close the line": "Ctrl+L",
        "Buoy": "Ctrl+Shift+B",
        "Spot height": "Alt+Q",
    },
    "View": {
        "Zoom in": "Ctrl++",
        "Zoom out": "Ctrl+-",
        "Whole sheet": "Home",
        "Layer list": "F11",
        "Grid": "Ctrl+G",
    },
}
NOTES = "Press a key together with the keys that are held. Page 3 of 12"


def _page(body: str) -> bytes:
    head = (
        "<nav><ul><li>Home</li><li>Search: Ctrl+K</li></ul></nav><script>var a = 'Ctrl+Q';</script>"
    )
    foot = f"<p>{NOTES}</p><div hidden>Secret: Ctrl+H</div>"
    return f"<!DOCTYPE html><html><body>{head}<h1>Keys</h1>{body}{foot}</body></html>".encode()


def _kbd(keys: str, plus: str = "+") -> str:
    """Keys as pages mark them up: each in an element of its own."""
    return " or ".join(
        plus.join(f"<kbd>{escape(part)}</kbd>" for part in _parts(one))
        for one in keys.split(" or ")
        if one
    )


def _parts(key: str) -> list[str]:
    return [*key[:-2].split("+"), "+"] if key.endswith("++") else key.split("+")


def _tables(row: Callable[[str, str], str], head: str) -> bytes:
    return _page(
        "".join(
            f"<h2>{menu}</h2><table>{head}{''.join(row(t, k) for t, k in commands.items())}</table>"
            for menu, commands in TRUTH.items()
        )
    )


def tables_under_headings() -> bytes:
    return _tables(
        lambda t, k: f"<tr><td>{t}</td><td>{_kbd(k)}</td></tr>",
        "<tr><th>Command</th><th>Keys</th></tr>",
    )


def keys_first() -> bytes:
    return _tables(
        lambda t, k: f"<tr><td>{escape(k)}</td><td>{t}</td></tr>",
        "<tr><th>Keys</th><th>Command</th></tr>",
    )


def tables_of_other_heads() -> bytes:
    body = ""
    for n, (menu, commands) in enumerate(TRUTH.items()):
        heads = [("Command", "Keys"), ("Action", "Shortcut"), ("Function", "Key")][n % 3]
        rows = "".join(f"<tr><td>{t}<td>{escape(k)}" for t, k in commands.items())
        body += f"<h2>{menu}</h2><table><tr><th>{heads[0]}<th>{heads[1]}{rows}</table>"
    return _page(body)


def menus_over_rows() -> bytes:
    body = "<tr><th>Menu</th><th>Command</th><th>Keys</th></tr>"
    for menu, commands in TRUTH.items():
        for n, (title, keys) in enumerate(commands.items()):
            cell = f'<td rowspan="{len(commands)}">{menu}</td>' if n == 0 else ""
            body += f"<tr>{cell}<td>{title}</td><td>{escape(keys)}</td></tr>"
    return _page(f"<table>{body}</table>")


def pairs_side_by_side() -> bytes:
    body = ""
    for menu, commands in TRUTH.items():
        rows = list(commands.items())
        half = (len(rows) + 1) // 2
        body += f"<h2>{menu}</h2><table><tr><th>Command<th>Keys<th>Command<th>Keys"
        for n in range(half):
            other = rows[n + half] if n + half < len(rows) else ("", "")
            body += "<tr>" + "".join(f"<td>{escape(cell)}" for cell in (*rows[n], *other))
        body += "</table>"
    return _page(body)


def _lists(item: Callable[[str, str], str]) -> bytes:
    return _page(
        "".join(
            f"<h2>{menu}</h2><ul>{''.join(item(t, k) for t, k in commands.items() if k)}</ul>"
            for menu, commands in TRUTH.items()
        )
    )


def bullets_bold() -> bytes:
    return _lists(lambda t, k: f"<li><b>{t}</b>: {escape(k)}</li>")


def bullets_dash() -> bytes:
    return _lists(lambda t, k: f"<li>{t} – {escape(k)}</li>")


def bullets_keys_first() -> bytes:
    return _lists(lambda t, k: f"<li>{_kbd(k)} – {t}</li>")


def rows_of_div() -> bytes:
    return _page(
        "".join(
            f"<h2>{menu}</h2>"
            + "".join(
                f"<div><span>{t}</span>: <span>{_kbd(k, '')}</span></div>"
                for t, k in commands.items()
                if k
            )
            for menu, commands in TRUTH.items()
        )
    )


def lines_with_br() -> bytes:
    return _page(
        "".join(
            f"<h3>{menu}</h3><p>"
            + "<br>".join(f"{t} ({escape(k)})" for t, k in commands.items() if k)
            + "</p>"
            for menu, commands in TRUTH.items()
        )
    )


def terms() -> bytes:
    return _page(
        "".join(
            f"<h2>{menu}</h2><dl>"
            + "".join(f"<dt>{t}</dt><dd>{_kbd(k)}</dd>" for t, k in commands.items() if k)
            + "</dl>"
            for menu, commands in TRUTH.items()
        )
    )


def list_beside_table() -> bytes:
    body = ""
    for n, (menu, commands) in enumerate(TRUTH.items()):
        rows = [(t, escape(k)) for t, k in commands.items() if k]
        body += f"<h2>{menu}</h2>"
        body += (
            "<ul>" + "".join(f"<li>{t}: {k}</li>" for t, k in rows) + "</ul>"
            if n == 1
            else "<table><tr><th>Command<th>Keys"
            + "".join(f"<tr><td>{t}<td>{k}" for t, k in rows)
            + "</table>"
        )
    return _page(body)


def aria() -> bytes:
    def button(title: str, keys: str) -> str:
        said = " ".join(
            key.replace("Ctrl", "Control").replace("++", "+Plus") for key in keys.split(" or ")
        )
        return f'<button aria-keyshortcuts="{said}">{title}</button>'

    return _page(
        "".join(
            f"<h2>{menu}</h2>" + "".join(button(t, k) for t, k in commands.items() if k)
            for menu, commands in TRUTH.items()
        )
    )


def _empty_text_document() -> Any:
    """A text document without the hundred styles of tables that none of ours has: reading them took
    nearly all of the time."""
    from docx import Document
    from docx.enum.style import WD_STYLE_TYPE

    document = Document()
    for style in list(document.styles):
        if style.type == WD_STYLE_TYPE.TABLE and style.name != "Normal Table":
            style.delete()
    return document


def text_document(merged: bool = False) -> bytes:
    document = _empty_text_document()
    document.add_heading("Keys", 0)
    for menu, commands in TRUTH.items():
        if not merged:
            document.add_heading(menu, 1)
        table = document.add_table(rows=0, cols=3 if merged else 2)
        if not merged or menu == next(iter(TRUTH)):
            for cell, text in zip(
                table.add_row().cells, ("Menu", "Command", "Keys")[not merged :], strict=True
            ):
                cell.text = text
        first = None
        for title, keys in commands.items():
            cells = table.add_row().cells
            for cell, text in zip(cells[int(merged) :], (title, keys), strict=True):
                cell.text = text
            if merged and first is not None:
                first.merge(cells[0])
            elif merged:
                first, cells[0].text = cells[0], menu
    document.add_paragraph(NOTES)
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def text_document_lists() -> bytes:
    document = _empty_text_document()
    for menu, commands in TRUTH.items():
        document.add_heading(menu, 1)
        for title, keys in commands.items():
            if keys:
                document.add_paragraph(f"{title}: {keys}", style="List Bullet")
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def workbook_sheets() -> bytes:
    from openpyxl import Workbook

    book = Workbook()
    book.remove(book.active)
    for menu, commands in TRUTH.items():
        sheet = book.create_sheet(menu)
        sheet.append(["Keys of Quillmap"])
        sheet.append(["Command", "Keys"])
        for row in commands.items():
            sheet.append(list(row))
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def open_workbook() -> bytes:
    from odf.opendocument import OpenDocumentSpreadsheet
    from odf.table import Table, TableCell, TableRow
    from odf.text import P

    document = OpenDocumentSpreadsheet()
    for menu, commands in TRUTH.items():
        table = Table(name=menu)
        for row in (("Command", "Keys"), *commands.items()):
            line = TableRow()
            for text in row:
                cell = TableCell()
                cell.addElement(P(text=text))
                line.addElement(cell)
            table.addElement(line)
        document.spreadsheet.addElement(table)
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def open_document() -> bytes:
    from odf.opendocument import OpenDocumentText
    from odf.table import CoveredTableCell, Table, TableCell, TableRow
    from odf.text import H, P

    document = OpenDocumentText()
    document.text.addElement(H(outlinelevel=1, text="Keys"))
    table = Table(name="keys")
    rows: list[tuple[str, ...]] = [("Menu", "Command", "Keys")]
    for menu, commands in TRUTH.items():
        rows += [(menu if n == 0 else "", t, k) for n, (t, k) in enumerate(commands.items())]
    for menu, title, keys in rows:
        line = TableRow()
        spans = len(TRUTH.get(menu, ()))
        first = (
            TableCell(numberrowsspanned=spans)
            if spans
            else TableCell()
            if menu
            else CoveredTableCell()
        )
        first.addElement(P(text=menu))
        line.addElement(first)
        for text in (title, keys):
            cell = TableCell()
            cell.addElement(P(text=text))
            line.addElement(cell)
        table.addElement(line)
    document.text.addElement(table)
    document.text.addElement(P(text=NOTES))
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _paper(draw: Callable[..., None]) -> bytes:
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(595, 842))
    draw(canvas)
    canvas.save()
    return out.getvalue()


def paper_list() -> bytes:
    def draw(canvas: object) -> None:
        at = 780.0
        canvas.setFont("Helvetica-Bold", 20)  # type: ignore[attr-defined]
        canvas.drawString(60, at, "Keys")  # type: ignore[attr-defined]
        for menu, commands in TRUTH.items():
            at -= 34
            canvas.setFont("Helvetica-Bold", 14)  # type: ignore[attr-defined]
            canvas.drawString(60, at, menu)  # type: ignore[attr-defined]
            canvas.setFont("Helvetica", 10)  # type: ignore[attr-defined]
            for title, keys in commands.items():
                if keys:
                    at -= 16
                    canvas.drawString(60, at, title)  # type: ignore[attr-defined]
                    canvas.drawString(260, at, keys)  # type: ignore[attr-defined]

    return _paper(draw)


def paper_ruled() -> bytes:
    from reportlab.lib import colors
    from reportlab.lib.styles import getSampleStyleSheet
    from reportlab.platypus import Paragraph, SimpleDocTemplate, Table, TableStyle

    out = io.BytesIO()
    rows = [["Menu", "Command", "Keys"]]
    spans = []
    for menu, commands in TRUTH.items():
        spans.append(("SPAN", (0, len(rows)), (0, len(rows) + len(commands) - 1)))
        rows += [[menu if n == 0 else "", t, k] for n, (t, k) in enumerate(commands.items())]
    style = TableStyle([("GRID", (0, 0), (-1, -1), 0.5, colors.black), *spans])
    title = Paragraph("Keys", getSampleStyleSheet()["Title"])
    SimpleDocTemplate(out).build([title, Table(rows, style=style, repeatRows=1), Paragraph(NOTES)])
    return out.getvalue()


def paper_card() -> bytes:
    """Two columns side by side, the keys first, with headings in bold and a title over both."""

    def draw(canvas: Any) -> None:
        canvas.setFont("Helvetica-Bold", 18)
        canvas.drawString(50, 790, "Keys of the sheet, for the wall beside the screen")
        for n, (menu, commands) in enumerate(TRUTH.items()):
            x, y = 50 + 260 * (n % 2), 750 - 220 * (n // 2)
            canvas.setFont("Helvetica-Bold", 9)
            canvas.drawString(x, y, menu)
            canvas.setFont("Helvetica", 9)
            for title, keys in commands.items():
                if keys:
                    y -= 16
                    canvas.drawString(x, y, keys)
                    canvas.drawString(x + 110, y, title)

    return _paper(draw)


def handbook_book() -> bytes:
    """A section of a handbook, its keys marked up as such; modifiers are entities of its own."""
    body = ""
    for menu, commands in TRUTH.items():
        rows = ""
        for title, keys in commands.items():
            combos = " or ".join(_combo(key) for key in keys.split(" or ") if key)
            rows += f"<row><entry><para>{combos}</para></entry><entry><para>{title}</para></entry></row>\n"
        head = "<thead><row><entry>Key</entry><entry>Command</entry></row></thead>"
        body += (
            f"<sect2><title>{menu}</title><!-- <thead> & <row> --><informaltable><tgroup cols='2'>{head}<tbody>{rows}"
            "</tbody></tgroup></informaltable></sect2>"
        )
    start = (
        '<?xml version="1.0"?><!DOCTYPE sect1 PUBLIC "-//OASIS//DTD DocBook XML V4.5//EN" "x.dtd">'
    )
    return f"{start}<sect1><title>Keys</title>{body}<para>{NOTES}</para></sect1>".encode()


def _combo(key: str) -> str:
    parts = "".join(
        f"&{part};" if part in ("Ctrl", "Alt", "Shift") else f"<keycap>{escape(part)}</keycap>"
        for part in _parts(key)
    )
    return f'<keycombo action="simul">{parts}</keycombo>'


def handbook_topic() -> bytes:
    """A topic of a help that desktops show: lists with keys first."""
    body = ""
    for menu, commands in TRUTH.items():
        items = "".join(
            f"<item><p>{' or '.join(map(_keyseq, keys.split(' or ')))}: {title}</p></item>"
            for title, keys in commands.items()
            if keys
        )
        body += f"<section><title>{menu}</title><list>{items}</list></section>"
    start = '<page xmlns="http://projectmallard.org/1.0/" id="keys"><info><desc>Esc</desc></info>'
    return f"{start}<title>Keys</title>{body}<p>{NOTES}</p></page>".encode()


def _keyseq(key: str) -> str:
    return f"<keyseq>{''.join(f'<key>{escape(part)}</key>' for part in _parts(key))}</keyseq>"


def yaml_names() -> bytes:
    import yaml

    return yaml.safe_dump(TRUTH, sort_keys=False).encode()  # type: ignore[no-any-return]


def toml_names() -> bytes:
    lines = []
    for menu, commands in TRUTH.items():
        lines += [f'["{menu}"]', *(f'"{t}" = "{k}"' for t, k in commands.items()), ""]
    return "\n".join(lines).encode()


def ini_names() -> bytes:
    lines = []
    for menu, commands in TRUTH.items():
        lines += [f"[{menu}]", *(f"{t} = {k}" for t, k in commands.items()), ""]
    return "\n".join(lines).encode()


def markdown_tables() -> bytes:
    parts = ["# Keys"]
    for menu, commands in TRUTH.items():
        rows = "".join(f"| {t} | {k and f'`{k}`'} |\n" for t, k in commands.items())
        parts.append(f"## {menu}\n\n| Command | Shortcut |\n|---|:-:|\n{rows}")
    return "\n\n".join(parts).encode()


def markdown_lists() -> bytes:
    parts = ["Keys\n====", "Some words on them."]
    for menu, commands in TRUTH.items():
        items = "".join(f"- **{t}**: `{k}`\n" for t, k in commands.items() if k)
        parts.append(f"## {menu}\n\n{items}")
    return "\n\n".join(parts).encode()


def xml_names() -> bytes:
    body = "".join(
        f'<menu name="{menu}">'
        + "".join(f'<command title="{t}" keys="{escape(k)}"/>' for t, k in commands.items())
        + "</menu>"
        for menu, commands in TRUTH.items()
    )
    return f'<?xml version="1.0"?><keys>{body}</keys>'.encode()


def plist_names() -> bytes:
    return plistlib.dumps(TRUTH, sort_keys=False)


#: By the name of a file: how it is made, and whether commands without keys and menus are in it.
DOCUMENTS: dict[str, tuple[Callable[[], bytes], bool]] = {
    "headings.html": (tables_under_headings, True),
    "keys-first.html": (keys_first, True),
    "other-heads.html": (tables_of_other_heads, True),
    "rowspan.html": (menus_over_rows, True),
    "pairs.html": (pairs_side_by_side, True),
    "bold.html": (bullets_bold, False),
    "dash.html": (bullets_dash, False),
    "first.html": (bullets_keys_first, False),
    "div.html": (rows_of_div, False),
    "br.html": (lines_with_br, False),
    "terms.html": (terms, False),
    "mixed.html": (list_beside_table, False),
    "aria.html": (aria, False),
    "tables.docx": (text_document, True),
    "merged.docx": (lambda: text_document(True), True),
    "lists.docx": (text_document_lists, False),
    "sheets.xlsx": (workbook_sheets, True),
    "sheets.ods": (open_workbook, True),
    "merged.odt": (open_document, True),
    "list.pdf": (paper_list, False),
    "ruled.pdf": (paper_ruled, True),
    "card.pdf": (paper_card, False),
    "book.docbook": (handbook_book, True),
    "topic.page": (handbook_topic, False),
    "tables.md": (markdown_tables, True),
    "lists.md": (markdown_lists, False),
    "names.yaml": (yaml_names, True),
    "names.toml": (toml_names, True),
    "names.ini": (ini_names, True),
    "names.xml": (xml_names, True),
    "names.plist": (plist_names, True),
}
