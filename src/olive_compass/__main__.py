"""What the console script and ``python -m olive_compass`` run."""

import sys

try:
    # Ctrl-C before the program is loaded ends the process at once: there is nothing yet to tell.
    from signal import SIG_DFL, SIGINT, signal

    signal(SIGINT, SIG_DFL)
except KeyboardInterrupt:
    sys.exit(130)


def main() -> int:
    """Loads the program and runs it; returns its exit status."""
    from olive_compass.cli.main import main

    return main()


if __name__ == "__main__":
    sys.exit(main())
