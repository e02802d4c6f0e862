"""Applications: their catalogues, modes and rules, and how a command is found and named."""
