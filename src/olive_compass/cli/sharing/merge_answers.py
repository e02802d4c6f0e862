"""Who decides where both sides of a merge changed a decision: an option, or a person."""

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.sharing.merging import Conflict
from olive_compass.desk.merging import conflict_text
from olive_compass.desk.preferring import Resolve, by_preference


def resolver(if_taken: str | None, context: Surroundings) -> Resolve:
    """Chooses a side where both changed something: by the option, or by asking at a terminal."""
    by_option = by_preference(if_taken)
    if if_taken or not context.interactive:
        return by_option

    def asked(path: str, conflict: Conflict) -> str:
        context.say(f"{BOLD}{path}{OFF}: both sides changed {conflict_text(conflict)}")
        answer = context.ask("Whose? [o: ours, t: theirs, Enter: leave it]").lower()[:1]
        return {"o": "ours", "t": "theirs"}.get(answer, "")

    return asked
