"""The same command on different keys in sibling modes."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Place, View

ID = "siblings-differ"
SEVERITY = "note"
SAYS = (
    "A command has different keys in two modes that lie side by side, so the hand learns it twice."
)
ADVICE = "Give it the same key in both, or widen one of them: olive-compass widen."


def find(view: View) -> Iterator[Finding]:
    parents = view.app.modes.parents
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            by_mode = {mode: each.keys for each in assignments for mode in each.modes}
            modes = [mode for mode in by_mode if mode in parents]
            for n, one in enumerate(modes):
                for other in modes[n + 1 :]:
                    if parents[one] == parents[other] and not set(by_mode[one]) & set(
                        by_mode[other]
                    ):
                        yield Finding(
                            ID,
                            SEVERITY,
                            view.app.name,
                            f"“{view.title(command)}” is on {by_mode[one][0]} in {one} and on "
                            f"{by_mode[other][0]} in {other}.",
                            f"olive-compass assign {view.app.name} {command} '{by_mode[one][0]}' "
                            f"--mode {other}",
                            (Place(scheme.name, "assign", command),),
                            (command,),
                            (str(by_mode[one][0]), str(by_mode[other][0])),
                            (one, other),
                        )
