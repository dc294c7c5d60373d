"""`bralto`: one file a command group; this one joins them and turns errors into one line."""

from __future__ import annotations

import os
import sys
from collections.abc import Sequence
from importlib import import_module

import typer

from bralto.cli import start_window
from bralto.cli.printed.terminal import leave, printable, show_what_can_be
from bralto.core.errors import UserError
from bralto.core.words.lengths import say_in
from bralto.store.care.places import name_library

__all__ = ["OWN_FAULT", "run"]

OWN_FAULT = 70
"""Exit status of a fault of Bralto's own (EX_SOFTWARE of BSD's sysexits.h)."""

_COMMANDS = {
    "measure": ("measure", "measure"), "measures": ("views", "measures"),
    "views": ("views", "views"), "canons": ("canons", "canons"), "find": ("find", "find"),
    "level": ("level", "level"), "sight": ("sight", "sight"),
    "plan": ("plan", "plan"), "pose": ("model_picture", "pose"),
    "simulate": ("simulate", "simulate"), "import": ("transfer", "import_studies"),
    "export": ("transfer", "export_study"), "library": ("library_commands", "library"),
    "record": ("record", "record"), "habits": ("record", "habits"),
    "today": ("today", "today"), "demo": ("demo", "demo"),
}  # fmt: skip
"""Each command's module and its function there, or the group it is; in the order of the help."""


def _app(arguments: Sequence[str]) -> typer.Typer:
    """The parser with the command that is called, or with all of them where that is not plain:
    loading every command takes a quarter of a second."""
    app = typer.Typer(
        add_completion=False,
        no_args_is_help=False,
        help="Measure a drawing of the figure against its reference.",
        pretty_exceptions_enable=False,
        context_settings={"help_option_names": ["-h", "--help"]},
    )
    app.callback(invoke_without_command=True)(start_window.open_window)
    called = arguments[0] if arguments and arguments[0] in _COMMANDS else None
    for name, (module, act) in _COMMANDS.items():
        if called in (None, name):
            found = getattr(import_module(f"bralto.cli.{module}"), act)
            if isinstance(found, typer.Typer):
                app.add_typer(found, name=name)
            else:
                app.command(name)(found)
    return app


def run(arguments: list[str] | None = None) -> None:
    """Entry point: exit status 0 done, 1 a check failed, 2 bad input or usage, 70 a fault of
    Bralto's own."""
    say_in(os.environ.get("BRALTO_LENGTHS", ""))
    name_library(None)
    show_what_can_be()
    try:
        # Not standalone, so that a usage error is one line like every other.
        given = sys.argv[1:] if arguments is None else arguments
        status = _app(given)(args=arguments, standalone_mode=False)
    except UserError as error:
        _say(str(error))
        sys.exit(2)
    except typer.TyperException as error:
        said = getattr(error, "format_message", error.__str__)()  # with the option it is about
        _say(f"{said} (see bralto --help)")
        sys.exit(2)
    except BrokenPipeError:
        # The reader of our output went away, as `head` does; nothing is wrong.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        sys.exit(0)
    except OSError as error:
        # Of a file that a command named and nobody closer to it has told of.
        name = f"{error.filename}: " if error.filename else ""
        _say(f"{name}{error.strerror or error}")
        sys.exit(2)
    except Exception as error:
        from bralto.disk.reports import Reports

        reports = Reports()
        kept = reports.keep(error, "in a command")
        where = f"; {reports.folder} has a report of it" if kept else ""
        _say(f"something went wrong inside Bralto ({type(error).__name__}){where}")
        sys.exit(OWN_FAULT)
    code = status if isinstance(status, int) else 0
    if arguments is not None:  # called by somebody who goes on
        sys.exit(code)
    leave(code)


def _say(message: str) -> None:
    print("bralto: " + printable(" ".join(message.split())), file=sys.stderr)
