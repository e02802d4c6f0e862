"""Carries out templates of others in a process of their own, with bounds on time, memory and length.

Run as a module, it reads one JSON document (``source`` and ``data``) and writes one (``text``, or
``says`` and ``line``). Within a process nothing can bound what a template does: one multiplication
may ask for all memory there is.
"""

import contextlib
import json
import subprocess
import sys
from collections.abc import Mapping
from typing import Any

#: The longest text that a template may make, in characters.
LONGEST = 20_000_000

#: How long a template may run, in seconds, and the memory that it may take, in bytes.
SECONDS = 5
MEMORY = 1_000_000_000


class RenderError(Exception):
    """A template cannot be carried out: the sentence and the line."""

    def __init__(self, says: str, line: int = 0) -> None:
        super().__init__(says)
        self.line = line


def render(source: str, data: Mapping[str, Any]) -> str:
    """The text that a template makes of ``data``; raises ``RenderError``."""
    asked = json.dumps({"source": source, "data": data})
    # -P: nothing is loaded from the current folder, which may be anybody's.
    words = [sys.executable, "-P", "-m", "olive_compass.drawing.sandbox"]
    try:
        done = subprocess.run(
            words,
            input=asked.encode(),
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            timeout=SECONDS + 2,
        )
    except subprocess.TimeoutExpired:
        raise RenderError(f"The template takes more than {SECONDS} s") from None
    try:
        answer = json.loads(done.stdout)
    except ValueError:
        # The system ends what takes more than its share, without a word.
        raise RenderError(
            f"The template takes more than {SECONDS} s, or more than {MEMORY // 1_000_000} MB"
        ) from None
    if "text" not in answer:
        raise RenderError(answer["says"], answer["line"])
    return str(answer["text"])


def rendered(source: str, data: Mapping[str, Any]) -> str:
    """The same within this process, bounded in length only."""
    from jinja2 import StrictUndefined, TemplateError, TemplateSyntaxError
    from jinja2.sandbox import ImmutableSandboxedEnvironment

    environment = ImmutableSandboxedEnvironment(
        undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True, keep_trailing_newline=True
    )
    try:
        template = environment.from_string(source)
        parts, length = [], 0
        for part in template.generate(**data):
            length += len(part)
            if length > LONGEST:
                raise RenderError(f"The template makes more than {LONGEST} characters")
            parts.append(part)
        return "".join(parts)
    except TemplateSyntaxError as error:
        raise RenderError(f"The template cannot be read: {error.message}", error.lineno) from error
    except TemplateError as error:
        raise RenderError(f"The template cannot be carried out: {error.message}") from error
    except RenderError:
        raise
    except MemoryError as error:
        says = f"The template takes more than {MEMORY // 1_000_000} MB of memory"
        raise RenderError(says) from error
    except Exception as error:
        # What a template does wrong comes as any error of the language: it is the template's.
        raise RenderError(f"The template cannot be carried out: {error}") from error


def _bound() -> None:
    """Lets the system end this process when it takes too much; not every system can."""
    if sys.platform == "win32":
        return
    import resource

    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))


def _main() -> None:
    _bound()
    asked = json.load(sys.stdin.buffer)
    answer: dict[str, Any]
    try:
        answer = {"text": rendered(asked["source"], asked["data"])}
    except RenderError as problem:
        answer = {"says": str(problem), "line": problem.line}
    sys.stdout.buffer.write(json.dumps(answer).encode())


if __name__ == "__main__":
    _main()
