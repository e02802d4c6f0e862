"""How many small faults the tests of every day find: mutants of all of the core, and of what reads and saves files.

Usage: python tools/mutants.py [COUNT] [SEED]

Takes COUNT (40) places at random by SEED (the day's number, so that each day looks at others): a comparison turned round, ``and`` for ``or``, a ``not``
taken out, a number one larger, True for False, ``break`` for ``continue``, plus for minus. Each is made
in a copy of the tree, and tests are run until something fails: first the files of ``tests/core`` that name the
module with the fault, then all of ``tests/core``, then all tests of every day. Prints those that nobody noticed,
which of the others only the command line notices, and the share that was killed; exits 1 where that is below 0.85.
"""

import ast
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from datetime import date
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
ROOMS = (
    "core",
    "desk/formats",
    "desk/storage/saving.py",
    "desk/storage/locking.py",
    "desk/storage/history.py",
    "desk/storage/recorded_changes.py",
    "desk/texts",
)
AIM = 0.85

#: How long the tests may take, in seconds: several times what they take on two idle cores.
PATIENCE = 600

COMPARED: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
}


def main() -> int:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 40
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else date.today().toordinal()
    draw = random.Random(seed)
    print(f"Seed {seed}:")
    files = [path for room in ROOMS for path in _python(ROOT / "src/olive_compass" / room)]
    places = [(path, n) for path in files for n in range(len(list(_sites(_parsed(path)))))]
    chosen = draw.sample(places, min(count, len(places)))
    killed = 0
    with tempfile.TemporaryDirectory() as folder:
        listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, text=True)
        for name in listed.stdout.split("\0"):
            if name:
                (Path(folder) / name).parent.mkdir(parents=True, exist_ok=True)
                shutil.copy(ROOT / name, Path(folder) / name)
        if not _passes(folder, "tests"):
            print("The tests fail as they are: see python -m pytest")
            return 2
        for number, (path, n) in enumerate(chosen, 1):
            copied = Path(folder) / path.relative_to(ROOT)
            before = copied.read_text()
            says = _mutate(copied, n)
            near = _near(path)
            where = f"({number} of {len(chosen)}): {path.relative_to(ROOT)}:{says}"
            if (near and not _passes(folder, *near)) or not _passes(folder):
                killed += 1
            elif not _passes(folder, "tests"):
                killed += 1
                print(f"noticed by the command line only {where}", flush=True)
            else:
                print(f"survived {where}", flush=True)
            print(f"{killed} of {number} killed", file=sys.stderr, flush=True)
            copied.write_text(before)
    print(f"{killed} of {len(chosen)} killed ({killed / len(chosen):.0%}), {len(places)} places")
    return 0 if killed >= AIM * len(chosen) else 1


def _python(path: Path) -> list[Path]:
    return [path] if path.is_file() else sorted(path.rglob("*.py"))


def _parsed(path: Path) -> ast.Module:
    return ast.parse(path.read_text())


def _sites(tree: ast.Module) -> Iterator[ast.AST]:
    """The nodes that can be made wrong, in their order.

    How a record is declared (``frozen``, ``kw_only``) is no deed: a type checker holds it.
    """
    classes = [node for node in ast.walk(tree) if isinstance(node, ast.ClassDef)]
    declared = {part for each in classes for word in each.keywords for part in ast.walk(word)}
    for node in ast.walk(tree):
        if node in declared:
            continue
        if (
            (isinstance(node, ast.Compare) and type(node.ops[0]) in COMPARED)
            or isinstance(node, ast.BoolOp | ast.Continue)
            or (isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not))
            or (isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add | ast.Sub))
            or (isinstance(node, ast.Constant) and type(node.value) in (bool, int))
        ):
            yield node


def _mutate(path: Path, n: int) -> str:
    """Makes the ``n``-th fault in a file, and says where and which."""
    tree = _parsed(path)
    node = list(_sites(tree))[n]
    line, before = getattr(node, "lineno", 0), ast.unparse(node)
    if isinstance(node, ast.Compare):
        node.ops[0] = COMPARED[type(node.ops[0])]()
    elif isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
    elif isinstance(node, ast.BinOp):
        node.op = ast.Sub() if isinstance(node.op, ast.Add) else ast.Add()
    elif isinstance(node, ast.Constant):
        node.value = (not node.value) if isinstance(node.value, bool) else int(node.value) + 1  # type: ignore[arg-type]
    else:
        swapped = _Swapped(node).visit(tree)
        path.write_text(ast.unparse(ast.fix_missing_locations(swapped)))
        return f"{line} without {before}"
    path.write_text(ast.unparse(ast.fix_missing_locations(tree)))
    return f"{line} {before} -> {ast.unparse(node)}"


class _Swapped(ast.NodeTransformer):
    """``break`` in place of a ``continue``, or what a ``not`` denies in place of the ``not``."""

    def __init__(self, wanted: ast.AST) -> None:
        self.wanted = wanted

    def visit(self, node: ast.AST) -> ast.AST:
        if node is self.wanted:
            return node.operand if isinstance(node, ast.UnaryOp) else ast.Break()
        self.generic_visit(node)
        return node


def _near(path: Path) -> list[str]:
    """The files of ``tests/core`` that name a module, most of which notice what is wrong in it."""
    name = ".".join(path.relative_to(ROOT / "src").with_suffix("").parts)
    files = sorted((ROOT / "tests/core").glob("test_*.py"))
    return [f"tests/core/{file.name}" for file in files if name in file.read_text()]


def _passes(folder: str, *files: str) -> bool:
    """Whether these files of tests find nothing wrong, all of ``tests/core`` where none is named."""
    # Fewer examples than the everyday run: what they miss counts as missed.
    environ = {
        **os.environ,
        "PYTHONPATH": os.path.join(folder, "src"),
        "OLIVE_COMPASS_EXAMPLES": "30",
    }
    words = ("-q", "-x", "-p", "no:cacheprovider", *(files or ("tests/core",)))
    line = [sys.executable, "-m", "pytest", *words]
    with subprocess.Popen(
        line,
        cwd=folder,
        env=environ,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    ) as running:
        try:
            return running.wait(PATIENCE) == 0
        except subprocess.TimeoutExpired:
            # A fault that makes a loop endless is noticed. The workers go with whoever started them.
            os.killpg(running.pid, signal.SIGKILL)
            return False


if __name__ == "__main__":
    sys.exit(main())
