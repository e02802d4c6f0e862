"""What the console script and ``python -m olive_compass`` run."""

import os
import sys
from _signal import SIG_DFL, SIGINT, signal  # type: ignore[import-not-found]

# Ctrl-C before the program is loaded ends the process at once: there is nothing yet to tell.
signal(SIGINT, SIG_DFL)


def main() -> int:
    """Loads the program and runs it; returns its exit status, where the process does not end here."""
    from olive_compass.cli.main import main

    status = main()
    _leave(status)
    return status


def _leave(status: int) -> None:
    """Ends the process at once, unless something is to be done at its end.

    Taking apart, object by object, what the system frees as a whole takes a tenth of an everyday
    command.
    """
    if "atexit" in sys.modules or "threading" in sys.modules:
        return
    try:
        sys.stdout.flush()
        sys.stderr.flush()
    except (AttributeError, OSError, ValueError):
        # Closed or gone: the interpreter knows what to say of it.
        return
    os._exit(status)


if __name__ == "__main__":
    sys.exit(main())
