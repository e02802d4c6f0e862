"""``completion``: prints what a shell needs to complete commands, applications and schemes."""

import argparse

from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings

GROUP = "help"
ORDER = 20
SUMMARY = "Print the completion script for bash, zsh or fish"
EXAMPLES = """eval "$(olive-compass completion bash)"
olive-compass completion fish > ~/.config/fish/completions/olive-compass.fish"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("shell", choices=("bash", "zsh", "fish"))


class CompletionOptions(Common, kw_only=True):
    """The options of ``completion``."""

    shell: str


def run(args: CompletionOptions, context: Surroundings) -> int:
    from argcomplete.shell_integration import shellcode

    context.write(shellcode(["olive-compass"], shell=args.shell) + "\n")
    return 0
