"""The people of the office, as Django sees them."""

from django.apps import AppConfig


class People(AppConfig):
    """Connects what happens at sign-in."""

    name = "server.people"
    label = "people"

    def ready(self) -> None:
        """Listen to sign-ins."""
        from server.people import accounts  # noqa: F401
