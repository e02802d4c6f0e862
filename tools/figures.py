"""How plain the code is, in figures: what expressions carry, records built by position, circles of imports.

Usage: python tools/figures.py

Prints each figure beside its goal. A figure is no judge: a reader decides whether a line is plain.
"""

import ast
import io
import re
import tokenize
from collections import Counter
from collections.abc import Callable, Iterator
from graphlib import CycleError, TopologicalSorter
from pathlib import Path
from statistics import mean
from typing import NamedTuple

import grimp

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "olive_compass"

#: How many lines a module has at most.
MOST_LINES = 320

#: What of the command line only parses, prints and completes: its modules and rooms.
PLUMBING = {
    "terminal",
    "surroundings",
    "completion",
    "main",
    "parsing",
    "registry",
    "options",
    "pick",
    "in_use",
}

#: Parameters of functions that belong to a command line whatever they do.
FRONT = frozenset(("args", "context", "options", "parser", "action", "telling"))


class Module(NamedTuple):
    """A module of the program: its file, its text and its tree."""

    path: Path
    text: str
    tree: ast.Module

    @property
    def lines(self) -> int:
        return sum(bool(line.strip()) for line in self.text.splitlines())

    def nodes(self, *kinds: type[ast.AST]) -> Iterator[ast.AST]:
        return (node for node in ast.walk(self.tree) if isinstance(node, kinds))


def main() -> None:
    modules = [_read(path) for path in sorted(SOURCE.rglob("*.py"))]
    for name, figure, goal in figures(modules):
        print(f"{name:<58}{figure:>9}   {goal}")


def figures(modules: list[Module]) -> Iterator[tuple[str, str, str]]:
    """Each figure: its name, what it is now, and its goal."""
    lines = sum(module.lines for module in modules)

    def in_100(count: Callable[[Module], int]) -> str:
        return f"{100 * sum(map(count, modules)) / lines:.1f}"

    comprehensions = (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)
    yield "lines that are not blank", f"{lines:,}", ""
    yield "ternaries in 100 lines", in_100(lambda m: len(list(m.nodes(ast.IfExp)))), "below 1.0"
    yield "and, or in 100 lines", in_100(_connections), "below 2.5"
    yield (
        "comprehensions in 100 lines",
        in_100(lambda m: len(list(m.nodes(*comprehensions)))),
        "below 3",
    )
    yield "comments in 100 lines", in_100(_comments), "5 or more"
    ways = [_ways(node) for m in modules for node in m.nodes(ast.FunctionDef, ast.AsyncFunctionDef)]
    yield "ways through a function, in the mean", f"{mean(ways):.1f}", "below 4"
    above = sum(each > 10 for each in ways) / len(ways)
    yield "functions with more than ten ways", f"{above:.1%}", "below 4 %"
    yield "functions with more than twenty ways", str(sum(each > 20 for each in ways)), "none"
    front = [m for m in modules if "cli" in m.path.relative_to(SOURCE).parts[:1]]
    verbs = [
        m for m in front if not PLUMBING & set(m.path.relative_to(SOURCE).with_suffix("").parts)
    ]
    yield "lines of the command line", f"{sum(m.lines for m in front):,}", "at most 17,000"
    yield "lines of it in functions that compute", f"{sum(map(_computing, verbs)):,}", "below 500"
    yield "lines of it that put JSON together", f"{sum(map(_json, front)):,}", "none"
    options = [call for m in front for call in m.nodes(ast.Call) if _declares(call)]
    yield "options declared", f"{len(options)}", ""
    twice = len(options) - len({ast.unparse(call).partition("(")[2] for call in options})
    yield "options declared twice in the same words", str(twice), "0"
    yield "parameters typed Any", str(sum(map(_any, modules))), ""
    yield "records of five and more built by position", str(sum(_by_position(modules))), "0"
    spread = sum(isinstance(n.value, ast.Tuple) for m in modules for n in m.nodes(ast.Starred))  # type: ignore[attr-defined]
    yield "literals spread with a star", str(spread), "0"
    core = [m for m in modules if "core" in m.path.relative_to(SOURCE).parts[:1]]
    yield "command lines written in the core", str(sum(map(_command_lines, core))), "0"
    yield "circles of imports", _circles(), "none"
    yield "names of classes twice in a room", str(len(_twice(modules))), "0"
    long = sum(len(m.text.splitlines()) > MOST_LINES for m in modules)
    yield f"modules of more than {MOST_LINES} lines", str(long), "0"
    tests = sum(_read(path).lines for path in (ROOT / "tests").rglob("*.py"))
    yield "tests among all lines", f"{tests / (tests + lines):.0%}", "24 to 33 %"


def _read(path: Path) -> Module:
    text = path.read_text(encoding="utf-8")
    return Module(path, text, ast.parse(text))


def _connections(module: Module) -> int:
    return sum(len(node.values) - 1 for node in module.nodes(ast.BoolOp))  # type: ignore[attr-defined]


def _comments(module: Module) -> int:
    tokens = tokenize.generate_tokens(io.StringIO(module.text).readline)
    return sum(token.type == tokenize.COMMENT for token in tokens)


def _ways(function: ast.AST) -> int:
    """The ways through a function: one, and one more for each place where it branches."""
    ways = 1
    branches = (ast.If, ast.For, ast.While, ast.ExceptHandler, ast.IfExp, ast.match_case)
    for node in ast.walk(function):
        if isinstance(node, branches):
            ways += 1
        elif isinstance(node, ast.BoolOp):
            ways += len(node.values) - 1
        elif isinstance(node, ast.comprehension):
            ways += 1 + len(node.ifs)
    return ways


def _any(module: Module) -> int:
    typed = (node.annotation for node in module.nodes(ast.arg))  # type: ignore[attr-defined]
    return sum(each is not None and ast.unparse(each) == "Any" for each in typed)


def _computing(module: Module) -> int:
    """The lines of functions that neither word, print nor parse: six lines and more without a sentence, without JSON,
    and without options or the terminal among their parameters; but for what does nothing else (``PLUMBING``)."""
    count = 0
    for node in module.nodes(ast.FunctionDef):
        assert isinstance(node, ast.FunctionDef)
        size = (node.end_lineno or 0) - node.lineno + 1
        given = {each.arg for each in (*node.args.args, *node.args.kwonlyargs)}
        texts = [each.value for each in ast.walk(node) if isinstance(each, ast.Constant)]
        sentences = [text for text in texts if isinstance(text, str) and " " in text]
        documented = ast.get_docstring(node) is not None
        if size < 6 or len(sentences) > documented or given & FRONT or _json_in(node):
            continue
        count += size
    return count


def _json(module: Module) -> int:
    return sum(map(_json_in, module.nodes(ast.FunctionDef)))


def _json_in(tree: ast.AST) -> int:
    """The lines of maps with two texts and more as their names, whose values are worked out."""
    count = 0
    for node in ast.walk(tree):
        if isinstance(node, ast.Dict):
            names = [key for key in node.keys if isinstance(key, ast.Constant)]
            texts = sum(isinstance(name.value, str) for name in names)
            if texts > 1 and not all(isinstance(each, ast.Constant) for each in node.values):
                count += (node.end_lineno or 0) - node.lineno + 1
    return count


def _declares(node: ast.AST) -> bool:
    """Whether a call declares an option or an argument of a command."""
    called = getattr(node, "func", None)
    return isinstance(called, ast.Attribute) and called.attr == "add_argument"


def _by_position(modules: list[Module]) -> Iterator[int]:
    """How often a record of ours is given five values and more without their names, by module."""
    records = {
        node.name  # type: ignore[attr-defined]
        for module in modules
        for node in module.nodes(ast.ClassDef)
        if any("Struct" in ast.unparse(base) for base in node.bases)  # type: ignore[attr-defined]
    }
    for module in modules:
        yield sum(
            len(call.args) > 4 and ast.unparse(call.func).rpartition(".")[2] in records  # type: ignore[attr-defined]
            for call in module.nodes(ast.Call)
        )


def _twice(modules: list[Module]) -> list[tuple[Path, str]]:
    """The names that two classes of one room have."""
    names = [
        (module.path.parent, node.name)  # type: ignore[attr-defined]
        for module in modules
        for node in module.nodes(ast.ClassDef)
    ]
    return [each for each, times in Counter(names).items() if times > 1]


def _command_lines(module: Module) -> int:
    docstrings = {
        ast.get_docstring(node, clean=False)  # type: ignore[arg-type]
        for node in module.nodes(ast.Module, ast.ClassDef, ast.FunctionDef)
    }
    texts = (node.value for node in module.nodes(ast.Constant))  # type: ignore[attr-defined]
    return sum(
        isinstance(text, str)
        and text not in docstrings
        and bool(re.search(r"olive-compass |(^|\s)--[a-z]", text))
        for text in texts
    )


def _circles() -> str:
    graph = grimp.build_graph("olive_compass", cache_dir=None)
    below = {each: graph.find_modules_directly_imported_by(each) for each in graph.modules}
    try:
        TopologicalSorter(below).prepare()
    except CycleError as error:
        return " > ".join(error.args[1])
    return "none"


if __name__ == "__main__":
    main()
