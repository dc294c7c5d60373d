"""`bralto`: one file a command group; this one joins them and turns errors into one line."""

from __future__ import annotations

import sys

import typer

from bralto.cli import demo, measure, views, window
from bralto.core.errors import UserError

__all__ = ["app", "run"]

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
app.command("demo")(demo.demo)


def run(arguments: list[str] | None = None) -> None:
    """Entry point: exit status 0 done, 1 a check failed, 2 bad input or usage."""
    try:
        app(args=arguments)
    except UserError as error:
        print(f"bralto: {error}", file=sys.stderr)
        sys.exit(2)
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(0)
