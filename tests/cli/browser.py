"""A real headless browser, where the machine has one, driven over a pipe by its own debugging protocol."""

import base64
import contextlib
import json
import os
import select
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

NAMES = ("chromium", "chromium-browser", "google-chrome", "chrome")


def found() -> str:
    """The browser of this machine, ``""`` where there is none."""
    return next(filter(None, map(shutil.which, NAMES)), "")


class Page:
    """A page that is open: what it says, what is pressed in it, and what went wrong."""

    def __init__(self, process: "subprocess.Popen[bytes]", to: int, back: int) -> None:
        self._process = process
        self._to = to
        self._back = back
        self._rest = b""
        self._number = 0
        self._session = ""
        self._loaded = False
        #: Errors of scripts, of the console and of the page's own rules.
        self.errors: list[str] = []

    def open(self, path: Path, width: int = 1280, height: int = 800) -> None:
        """Opens a file, in daylight; errors of pages before are forgotten."""
        if not self._session:
            target = self._ask("Target.createTarget", url="about:blank")["targetId"]
            attached = self._ask("Target.attachToTarget", targetId=target, flatten=True)
            self._session = attached["sessionId"]
            for domain in ("Page", "Runtime", "Log"):
                self._ask(f"{domain}.enable")
        self.size(width, height)
        self.dark(False)
        self.errors.clear()
        self._go(path)

    def size(self, width: int, height: int) -> None:
        self._ask(
            "Emulation.setDeviceMetricsOverride",
            width=width,
            height=height,
            deviceScaleFactor=1,
            mobile=False,
        )

    def dark(self, dark: bool) -> None:
        value = "dark" if dark else "light"
        features = [{"name": "prefers-color-scheme", "value": value}]
        self._ask("Emulation.setEmulatedMedia", features=features)

    def without_scripts(self, path: Path) -> None:
        """Opens the page again as a browser in which scripts are switched off."""
        self._ask("Emulation.setScriptExecutionDisabled", value=True)
        self._go(path)
        self._ask("Emulation.setScriptExecutionDisabled", value=False)

    def _go(self, path: Path) -> None:
        self._loaded = False
        self._ask("Page.navigate", url=path.resolve().as_uri())
        while not self._loaded:
            self._note(self._read())

    def does(self, script: str) -> Any:
        """What an expression in the page comes to."""
        done = self._ask(
            "Runtime.evaluate", expression=script, awaitPromise=True, returnByValue=True
        )
        assert "exceptionDetails" not in done, done
        return done["result"].get("value")

    def press(self, key: str, code: str, modifiers: int = 0, up: bool = True) -> None:
        """A key: its ``key`` and ``code`` by W3C UI Events; modifiers: 1 Alt, 2 Ctrl, 4 Meta, 8 Shift."""
        about = {"key": key, "code": code, "modifiers": modifiers}
        if len(key) == 1 and not modifiers & 7:
            about["text"] = key
        self._ask("Input.dispatchKeyEvent", type="keyDown", **about)
        if up:
            about.pop("text", None)
            self._ask("Input.dispatchKeyEvent", type="keyUp", **about)

    def release(self, key: str, code: str) -> None:
        self._ask("Input.dispatchKeyEvent", type="keyUp", key=key, code=code)

    def shot(self, path: Path) -> None:
        done = self._ask("Page.captureScreenshot", format="png")
        path.write_bytes(base64.b64decode(done["data"]))

    def _ask(self, method: str, **params: Any) -> Any:
        self._number += 1
        message: dict[str, Any] = {"id": self._number, "method": method, "params": params}
        if self._session:
            message["sessionId"] = self._session
        os.write(self._to, json.dumps(message).encode() + b"\0")
        while True:
            answer = self._read()
            if answer.get("id") == self._number:
                assert "error" not in answer, (method, answer)
                return answer["result"]
            self._note(answer)

    def _note(self, event: dict[str, Any]) -> None:
        params = event.get("params", {})
        if event.get("method") == "Page.loadEventFired":
            self._loaded = True
        if event.get("method") == "Runtime.exceptionThrown":
            self.errors.append(json.dumps(params["exceptionDetails"]))
        if event.get("method") == "Runtime.consoleAPICalled" and params["type"] == "error":
            self.errors.append(json.dumps(params["args"]))
        if event.get("method") == "Log.entryAdded" and params["entry"]["level"] == "error":
            self.errors.append(params["entry"]["text"])

    def _read(self) -> dict[str, Any]:
        while b"\0" not in self._rest:
            ready, _, _ = select.select([self._back], [], [], 60)
            more = os.read(self._back, 1 << 16) if ready else b""
            assert more, "the browser went away"
            self._rest += more
        text, _, self._rest = self._rest.partition(b"\0")
        answer: dict[str, Any] = json.loads(text)
        return answer


@contextlib.contextmanager
def browser() -> Iterator[Page]:
    """A browser with one page, gone afterwards."""
    theirs, to = os.pipe()
    back, their_out = os.pipe()
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as profile:
        words = [
            found(),
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--hide-scrollbars",
            "--no-first-run",
            f"--user-data-dir={profile}",
            "--remote-debugging-pipe",
        ]
        # The protocol is spoken on the file descriptors 3 and 4.
        script = f'exec "$@" 3<&{theirs} 4>&{their_out}'
        process = subprocess.Popen(
            ["bash", "-c", script, "bash", *words],
            pass_fds=(theirs, their_out),
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        os.close(theirs)
        os.close(their_out)
        try:
            yield Page(process, to, back)
        finally:
            process.kill()
            process.wait()
            os.close(to)
            os.close(back)
