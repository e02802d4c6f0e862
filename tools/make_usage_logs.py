"""Makes up six weeks of logs of three seats for the demo desk, always the same ones.

Usage: python tools/make_usage_logs.py

Habits differ by seat: some commands are reached by menu though they have a key, a key is pressed in the
place of its neighbour now and then and taken back, and from the fourth week on a command that had no
key has one.
"""

import json
import random
import shutil
from datetime import UTC, datetime, timedelta
from pathlib import Path

DATA = Path(__file__).parents[1] / "src" / "olive_compass" / "data" / "demo"
FOLDER = DATA / "logs" / "studio"
FIRST = datetime(2026, 8, 31, 8, 40, tzinfo=UTC)
WEEKS, DAYS = 6, 5
SEATS = ("ivo", "klara", "runa")

#: Of each application: command, how often a week, its key (none: by menu), how often it is pressed.
HABITS: dict[str, list[tuple[str, int, str, float]]] = {
    "quillmap": [
        ("sheet.save", 22, "Ctrl+S", 0.97),
        ("edit.undo", 14, "Ctrl+Z", 1.0),
        ("line.path", 12, "J", 0.9),
        ("contour.smooth", 11, "", 0.0),
        ("point.spot-height", 10, "Q", 0.0),
        ("lines.join", 8, "K", 0.25),
        ("label.place", 8, "N", 0.8),
        ("view.area", 7, "Z", 0.55),
        ("point.sounding", 6, "", 0.0),
        ("point.wreck", 4, "", 0.0),
        ("survey.measure", 4, "M E", 0.5),
        ("label.halo", 3, "", 0.0),
        ("point.anchorage", 4, "", 0.0),
        ("line.steps", 3, "", 0.0),
        ("label.curve", 3, "", 0.0),
        ("view.grid", 3, "G D", 0.1),
    ],
    "reliefkiln": [
        ("relief.save-relief", 9, "Ctrl+S", 0.95),
        ("shade.preview-shade", 9, "F5", 0.9),
        ("tint.snow-line", 7, "", 0.0),
        ("shade.light-height", 5, "", 0.0),
        ("shade.exaggerate-heights", 5, "", 0.0),
        ("relief.give-out-picture", 3, "", 0.0),
    ],
    "foldpress": [
        ("job.save-job", 8, "Ctrl+S", 0.95),
        ("go.next-page", 14, "PageDown", 0.9),
        ("press.proof", 6, "Ctrl+P", 0.6),
        ("fold.map-fold", 5, "F5", 0.3),
        ("pages.turn-page", 4, "Ctrl+R", 0.4),
        ("marks.fold-marks", 3, "", 0.0),
    ],
    "tagwright": [
        ("file.save", 9, "Ctrl+S", 0.98),
        ("text.bold", 6, "Ctrl+B", 0.9),
        ("text.italic", 6, "Ctrl+I", 0.9),
        ("text.small-capitals", 7, "", 0.0),
        ("align.spread-evenly", 3, "", 0.0),
    ],
}
#: Presses that go wrong: the application, the key that is pressed, what that starts, and the key meant.
SLIPS = {"reliefkiln": ("F6", "shade.shade-the-whole-sheet", "F5", "edit.undo")}


def main() -> None:
    shutil.rmtree(FOLDER, ignore_errors=True)
    draw = random.Random(20261126)
    for seat in SEATS:
        zeal = {"ivo": 0.8, "klara": 1.15, "runa": 1.0}[seat]
        folder = FOLDER / seat
        folder.mkdir(parents=True)
        for week in range(WEEKS):
            start = FIRST + timedelta(weeks=week)
            lines = _week(draw, week, start, zeal)
            year, number, _ = start.isocalendar()
            head = {"format": "olive-compass-log/1", "app": "", "time": start.isoformat()}
            text = "".join(json.dumps(each) + "\n" for each in ({**head}, *lines))
            (folder / f"{year}-W{number:02}.jsonl").write_text(text)


def _week(draw: random.Random, week: int, start: datetime, zeal: float) -> list[dict[str, str]]:
    lines = []
    for day in range(DAYS):
        time = start + timedelta(days=day, minutes=draw.randrange(20))
        for app, command, key in _work(draw, week, zeal):
            time += timedelta(seconds=draw.randrange(25, 260))
            lines.append(_line(time, app, command, key))
            slip = SLIPS.get(app)
            if slip and key == slip[2] and draw.random() < 0.14:
                lines[-1:] = [
                    _line(time, app, slip[1], slip[0]),
                    _line(time + timedelta(seconds=1), app, slip[3], "Ctrl+Z"),
                    _line(time + timedelta(seconds=2), app, command, key),
                ]
    return lines


def _work(draw: random.Random, week: int, zeal: float) -> list[tuple[str, str, str]]:
    """A day's work: which command, and the key that was pressed for it."""
    done = []
    for app, habits in HABITS.items():
        for command, often, key, pressed in habits:
            if app == "quillmap" and command == "contour.smooth" and week >= 3:
                # Half-way it got a key, and the hand goes on to the menu for a while.
                key, pressed = "Alt+M", 0.2 + 0.2 * (week - 3)
            for _ in range(round(often / DAYS * zeal + draw.random() - 0.5)):
                by_key = bool(key) and draw.random() < pressed
                done.append((app, command, key if by_key else ""))
    draw.shuffle(done)
    return done


def _line(time: datetime, app: str, command: str, key: str) -> dict[str, str]:
    line = {"time": time.isoformat(timespec="seconds"), "app": app, "command": command}
    return {**line, "how": "key", "key": key} if key else {**line, "how": "menu"}


if __name__ == "__main__":
    main()
