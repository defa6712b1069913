"""Make a database ready for this build to serve it."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser

from server.projects import builds


class Command(BaseCommand):
    """manage.py set_up [--demo NAME PASSWORD]"""

    help = "Migrate the database and say that this build serves it; processes of other builds notice and end."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", nargs=2, metavar=("NAME", "PASSWORD"), help="load the demo projects, once")

    def handle(self, *args: Any, demo: list[str] | None, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        builds.install()
        if demo:
            call_command("load_demo", *demo)
