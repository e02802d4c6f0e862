"""Findings on what was counted: looked for where there are tallies. One module each, as beside."""

#: From how many uses a week on a command is used much: our own choice.
MUCH = 10.0
