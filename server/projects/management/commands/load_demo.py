"""Load the demo projects for a demo account, once."""

from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser

from engine.demo import DEMOS
from server.projects import revisions


class Command(BaseCommand):
    """manage.py load_demo NAME PASSWORD"""

    help = "Make the demo account and its projects, unless they are there."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("password")

    def handle(self, *args: Any, name: str, password: str, **options: Any) -> None:
        user, made = User.objects.get_or_create(username=name)
        if made:
            user.set_password(password)
        if not User.objects.filter(is_superuser=True).exists():
            # whoever tries Lorica out may invite others
            user.is_staff = user.is_superuser = True
        user.save()
        if made:
            for demo in reversed(DEMOS.values()):
                revisions.create(user, demo(), "Demo data")
