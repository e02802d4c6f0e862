"""A run with more strokes than the application takes."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, of_schemes, place

ID = "run-too-long"
SEVERITY = "error"
SAYS = "A run has more strokes than the application takes."
ADVICE = "Shorten it. The longest run is “longest-run” under [rules] in app.toml."


def find(view: View) -> Iterator[Finding]:
    longest = view.app.rules.longest_run
    claims = [
        claim
        for press, bucket in view.keymap.buckets.items()
        if len(press) > longest
        for claim in bucket
    ]
    for claim in of_schemes(claims):
        takes = "no runs" if longest == 1 else f"runs of at most {longest}"
        yield Finding(
            ID,
            SEVERITY,
            view.app.name,
            f"{claim.trigger} of “{view.title(claim.command)}” has {len(claim.trigger.strokes)} "
            f"strokes; {view.app.title} takes {takes}.",
            f"olive-compass clear {view.app.name} {claim.command}",
            (place(claim),),
            (claim.command,),
            (str(claim.trigger),),
        )
