"""`bralto`: one file a command group; this one joins them and turns errors into one line."""

from __future__ import annotations

import os
import sys

import typer

from bralto.cli import (
    canons,
    demo,
    find,
    level,
    library_commands,
    measure,
    plan,
    pose,
    simulate,
    transfer,
    views,
    window,
)
from bralto.cli.terminal import leave, printable
from bralto.core.errors import UserError

__all__ = ["OWN_FAULT", "app", "run"]

OWN_FAULT = 70
"""Exit status of a fault of Bralto's own (EX_SOFTWARE of BSD's sysexits.h)."""

app = typer.Typer(
    add_completion=False,
    no_args_is_help=False,
    help="Measure a drawing of the figure against its reference.",
    pretty_exceptions_enable=False,
    context_settings={"help_option_names": ["-h", "--help"]},
)
app.callback(invoke_without_command=True)(window.open_window)
app.command("measure")(measure.measure)
app.command("measures")(views.measures)
app.command("views")(views.views)
app.command("canons")(canons.canons)
app.command("find")(find.find)
app.command("level")(level.level)
app.command("plan")(plan.plan)
app.command("pose")(pose.pose)
app.command("simulate")(simulate.simulate)
app.command("import")(transfer.import_studies)
app.command("export")(transfer.export_study)
app.add_typer(library_commands.library, name="library")
app.command("demo")(demo.demo)


def run(arguments: list[str] | None = None) -> None:
    """Entry point: exit status 0 done, 1 a check failed, 2 bad input or usage, 70 a fault of
    Bralto's own."""
    try:
        # Not standalone, so that a usage error is one line like every other.
        status = app(args=arguments, standalone_mode=False)
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
