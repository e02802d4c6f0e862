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
