"""The commands, one module each, found by their being here.

A module holds ``GROUP`` and ``SUMMARY`` for the list of commands, ``EXAMPLES`` for its help,
``add_arguments(parser)`` and ``run(args, surroundings)``, which returns the exit status; or ``VERBS`` in place of these
two, and ``DEFAULT_VERB`` where one is meant if none is named.
"""
