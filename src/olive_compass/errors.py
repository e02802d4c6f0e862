"""The one kind of error that a person's request or files can cause, and the end that a system asks for."""


class Terminated(KeyboardInterrupt):
    """A signal came to end the process while it had taken the terminal over; ``number`` is the signal."""

    def __init__(self, number: int) -> None:
        super().__init__(number)
        self.number = number


class UserError(Exception):
    """The request cannot be carried out as given.

    ``what`` is one or two plain sentences; ``file`` and ``line`` (0: unknown) say where;
    ``hint`` says what to do. ``status`` is the exit status of the program.
    """

    def __init__(
        self, what: str, *, file: str = "", line: int = 0, hint: str = "", status: int = 2
    ) -> None:
        super().__init__(what, file, line, hint)
        self.what = what
        self.file = file
        self.line = line
        self.hint = hint
        self.status = status

    def __str__(self) -> str:
        if self.line:
            place = f"{self.file}:{self.line}: "
        elif self.file:
            place = f"{self.file}: "
        else:
            place = ""
        return place + self.what + (f" {self.hint}" if self.hint else "")
