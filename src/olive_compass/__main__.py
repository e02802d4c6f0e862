"""What the console script and ``python -m olive_compass`` run."""

from _signal import SIG_DFL, SIGINT, signal  # type: ignore[import-not-found]

# Ctrl-C before the program is loaded ends the process at once: there is nothing yet to tell.
signal(SIGINT, SIG_DFL)


def main() -> int:
    """Loads the program and runs it; returns its exit status."""
    from olive_compass.cli.main import main

    return main()


if __name__ == "__main__":
    import sys

    sys.exit(main())
