"""How bad a finding is."""

#: The severities, the worst first.
SEVERITIES = ("error", "warning", "note")
