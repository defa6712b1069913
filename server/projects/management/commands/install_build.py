"""Say that this build serves the database."""

from typing import Any

from django.core.management.base import BaseCommand

from server.projects import builds


class Command(BaseCommand):
    """manage.py install_build"""

    help = "Say that this build of the program serves the database; processes of other builds notice and end."

    def handle(self, *args: Any, **options: Any) -> None:
        builds.install()
