"""Runs what takes a terminal over, and gives the terminal back however it ends."""

import asyncio
import contextlib
import signal
from typing import Any

from olive_compass.errors import Terminated

#: What ends a process that reads keys. SIGHUP is what a terminal sends that is closed; not every system has it.
_SIGNALS = [
    each for name in ("SIGINT", "SIGTERM", "SIGHUP") if (each := getattr(signal, name, None))
]


def run(app: Any) -> Any:
    """What an application of ``prompt_toolkit`` gives. Raises ``KeyboardInterrupt`` where the process is
    told to end; the terminal is as it was before by then."""

    def end(number: signal.Signals) -> None:
        # Told twice, it is on its way already.
        with contextlib.suppress(Exception):
            if number == signal.SIGINT:
                stop = KeyboardInterrupt()
            else:
                stop = Terminated(number)
            app.exit(exception=stop)

    def listen() -> None:
        loop = asyncio.get_running_loop()
        for number in _SIGNALS:
            # Windows ends a process without asking it.
            with contextlib.suppress(NotImplementedError):
                loop.add_signal_handler(number, end, number)

    return app.run(pre_run=listen, handle_sigint=False)
