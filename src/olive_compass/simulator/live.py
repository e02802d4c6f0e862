"""The simulator at a terminal: keys as they are pressed, the document beside what fired.

A terminal cannot send every stroke (Tab and Ctrl+I are the same to it, the numeric pad is not
told apart): those are typed in the field, which a key opens that nothing has.
"""

from typing import TYPE_CHECKING, Any

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.wording import clause
from olive_compass.simulator.saying import ASKS, FIRED, REMARK, TROUBLE, WHY, Line
from olive_compass.simulator.script import Leave, do_line
from olive_compass.simulator.session import Session
from olive_compass.simulator.terminal import run
from olive_compass.simulator.terminal_keys import stroke_of

if TYPE_CHECKING:
    from prompt_toolkit.key_binding import KeyPressEvent

_STYLE = {
    FIRED: "bold",
    WHY: "fg:ansibrightblack",
    ASKS: "fg:ansiblue bold",
    TROUBLE: "fg:ansired",
    REMARK: "",
}


#: The keys that may open the field, the last that nothing has.
_FIELD_KEYS = ("F12", "F11", "F10", "F9", "F8", "F7", "F6", "F5", "F4", "F3", "F2", "F1")


def field_key(session: Session) -> str:
    """The key that opens the field: one that does nothing in any mode, as far as there is one."""
    keymap = session.keymap
    for name in _FIELD_KEYS:
        press = keymap.keyboard.press_of(read_trigger(name))
        if press not in keymap.buckets and press not in keymap.beginnings:
            return name
    return _FIELD_KEYS[0]


def run_live(session: Session, title: str, colour: bool) -> None:
    """Runs ``session`` at the terminal until the person leaves."""
    _Live(session, title, colour).run()


class _Live:
    def __init__(self, session: Session, title: str, colour: bool) -> None:
        self.session = session
        self.title = title
        self.colour = colour
        self.lines: list[Line] = [
            Line(
                REMARK,
                f"Press a key. {field_key(session)} opens a field for a line: a key in words, or "
                "menu, mode, record, help, leave.",
            )
        ]
        self.opens = field_key(session)
        #: What stands in the field, None: it is closed; and whether it is an answer.
        self.typed: str | None = None
        self.answering = False
        self.escaped = False
        self.timer: Any = None

    def run(self) -> None:
        from prompt_toolkit.application import Application
        from prompt_toolkit.key_binding import KeyBindings
        from prompt_toolkit.keys import Keys
        from prompt_toolkit.layout import HSplit, Layout, VSplit, Window
        from prompt_toolkit.layout.controls import FormattedTextControl
        from prompt_toolkit.output.color_depth import ColorDepth

        bindings = KeyBindings()

        @bindings.add(Keys.Any)
        def _(event: "KeyPressEvent") -> None:
            self._pressed(event)

        @bindings.add(Keys.Escape, Keys.Any, eager=True)
        def _(event: "KeyPressEvent") -> None:
            pressed = event.key_sequence[-1]
            self._act(event, str(getattr(pressed.key, "value", pressed.key)), True)

        @bindings.add(Keys.Escape)
        def _(event: "KeyPressEvent") -> None:
            self._act(event, "escape")

        def pane(text: Any, **options: Any) -> Window:
            return Window(FormattedTextControl(text), wrap_lines=True, **options)

        body = VSplit(
            [
                pane(self._happened),
                Window(width=1, char="│", style="fg:ansibrightblack"),
                pane(self._holds, width=44),
            ]
        )
        root = HSplit(
            [
                pane(self._head, height=1, style="reverse" if self.colour else "bold"),
                body,
                Window(height=1, char="─", style="fg:ansibrightblack"),
                pane(self._foot, height=1),
            ]
        )
        app: Any = Application(
            layout=Layout(root),
            key_bindings=bindings,
            full_screen=True,
            color_depth=None if self.colour else ColorDepth.MONOCHROME,
        )
        app.ttimeoutlen = 0.05
        app.timeoutlen = 0.05
        run(app)

    def _pressed(self, event: "KeyPressEvent") -> None:
        pressed = event.key_sequence[-1]
        self._act(event, str(getattr(pressed.key, "value", pressed.key)))

    def _act(self, event: "KeyPressEvent", name: str, held: bool = False) -> None:
        if name in ("c-c", "c-d") and self.typed is not None:
            self.typed = None
            return
        if name.startswith("<"):
            return
        if self.typed is not None:
            self._type(event, name)
            return
        printable = len(name) == 1
        if self.session.question is not None and (printable or name in ("c-m", "enter")):
            # A question is answered by typing; everything else is a press.
            self.typed, self.answering = (name if printable else ""), True
            if not printable:
                self._enter(event)
            return
        stroke = stroke_of(name, held)
        if stroke is None:
            self._show([Line(TROUBLE, f"The terminal sends “{name}”, which is no stroke.")])
            return
        if str(stroke) == self.opens:
            self.typed, self.answering = "", False
            return
        self._show(self.session.stroke(stroke))
        self._wait(event)

    def _wait(self, event: "KeyPressEvent") -> None:
        """Ends a run in progress once the application's wait is over."""
        import asyncio

        if self.timer is not None:
            self.timer.cancel()
        if not self.session.pending:
            return

        def over() -> None:
            self._show(self.session.end_run())
            event.app.invalidate()

        wait = self.session.app.rules.wait or 1.0
        self.timer = asyncio.get_running_loop().call_later(wait, over)

    def _type(self, event: "KeyPressEvent", name: str) -> None:
        assert self.typed is not None
        if name in ("c-m", "enter", "c-j"):
            self._enter(event)
        elif name in ("c-h", "backspace"):
            self.typed = self.typed[:-1]
        elif name == "escape":
            self.typed = None
            if self.answering:
                self._show(self.session.cancel())
        elif len(name) == 1:
            self.typed += name

    def _enter(self, event: "KeyPressEvent") -> None:
        text, self.typed = self.typed or "", None
        if self.answering:
            self._show([Line(WHY, text.strip() or "(as it is)")])
        try:
            if self.answering:
                did = self.session.answer(text.strip())
            else:
                did = do_line(self.session, text)
            self._show(did)
        except Leave:
            event.app.exit()
            return
        self._wait(event)

    def _show(self, lines: list[Line]) -> None:
        self.lines = [*self.lines, *lines][-400:]

    def _head(self) -> list[tuple[str, str]]:
        recording = clause("   recording “{}”", self.session.recorder.recording)
        return [("", f" {self.title}   mode {self.session.document.mode}{recording}")]

    def _happened(self) -> list[tuple[str, str]]:
        from textwrap import wrap

        from prompt_toolkit.application import get_app

        size = get_app().output.get_size()
        parts = []
        for line in self.lines[-size.rows :]:
            indent = " "
            if line.what == WHY:
                indent = "   "
            rows = wrap(_safe(line.text), max(size.columns - 49, 20), replace_whitespace=False)
            parts += [(_STYLE[line.what], f"{indent}{row}\n") for row in rows or [""]]
        return parts[-(size.rows - 4) :]

    def _settings(self) -> list[tuple[str, str]]:
        """The settings of the document that have a value."""
        settings = self.session.document.settings
        if not settings:
            return []
        parts = [("bold", "\n Settings\n")]
        for name, value in sorted(settings.items()):
            parts.append(("", f"   {_safe(self.session.title(name))}: {_safe(value)}\n"))
        return parts

    def _holds(self) -> list[tuple[str, str]]:
        document = self.session.document
        parts = [("bold", f" {_safe(document.name)}\n")]
        for thing in document.things[-14:]:
            style, sign, where = "", " ", ""
            if thing.id in document.selection:
                style, sign = "fg:ansigreen", "*"
            if thing.at:
                where = f" at {thing.at[0]:g},{thing.at[1]:g}"
            parts.append((style, f" {sign} {_safe(thing.id)}{where}\n"))
            for name, value in sorted(thing.values.items()):
                parts.append(("fg:ansibrightblack", f"     {_safe(name)} {_safe(value)}\n"))
        if not document.things:
            parts.append(("fg:ansibrightblack", "   nothing placed yet\n"))
        parts += self._settings()
        if document.deeds:
            parts.append(("bold", "\n Done\n"))
            parts += [("", f"   {_safe(deed)}\n") for deed in document.deeds[-6:]]
        parts.append(("bold", "\n Shown\n"))
        parts.append(("", f"   {_safe(document.shown[-1])}, zoom {document.zoom:+d}\n"))
        parts += [("", f"   panel: {_safe(panel)}\n") for panel in document.panels]
        return parts

    def _foot(self) -> list[tuple[str, str]]:
        if self.typed is not None:
            name = "Line"
            if self.answering:
                name = "Answer"
            return [
                ("fg:ansibrightblack", f" {name}: "),
                ("bold", self.typed),
                ("reverse", " "),
                ("fg:ansibrightblack", "   Enter: do it   Escape: close"),
            ]
        if self.session.question is not None:
            return [
                (_STYLE[ASKS], f" {self.session.question.text} "),
                ("", "type the answer, Enter"),
            ]
        if self.session.pending:
            run = " ".join(map(str, self.session.pending))
            return [("", f" {run} ... ")]
        words = "menu   mode   record   finish   back   show   help   leave"
        return [("fg:ansibrightblack", f" {self.opens} opens a field: {words}")]


def _safe(text: str) -> str:
    return "".join(char if char.isprintable() else "�" for char in text)
