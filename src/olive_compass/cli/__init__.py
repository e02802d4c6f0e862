"""The command line: one module a command, and what they share."""
