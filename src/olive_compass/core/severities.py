"""How bad a finding is."""

from typing import Literal, get_args

#: The severities, the worst first.
Severity = Literal["error", "warning", "note"]
SEVERITIES: tuple[Severity, ...] = get_args(Severity)

#: What a desk sets a kind of finding to: how bad it is there, or that it is not looked for.
Setting = Severity | Literal["off"]
