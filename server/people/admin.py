"""Django's own administration, for administrators: what there is, to look at. Changes are made in the office's page, which keeps its
rules and writes them down."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from django.contrib import admin
from django.contrib.auth.models import Group, User
from django.http import HttpRequest

from server.people.models import Event, Invitation, Member, SignedIn
from server.projects.models import OfficeSection, Project, Revision, Run, Share

if TYPE_CHECKING:
    Base = admin.ModelAdmin[Any]
else:
    Base = admin.ModelAdmin


class ToLookAt(Base):
    """Rows that nobody adds, changes or deletes here."""

    def has_add_permission(self, request: HttpRequest) -> bool:
        """Never."""
        return False

    def has_change_permission(self, request: HttpRequest, obj: Any = None) -> bool:
        """Never."""
        return False

    def has_delete_permission(self, request: HttpRequest, obj: Any = None) -> bool:
        """Never."""
        return False


COLUMNS: dict[Any, tuple[str, ...]] = {
    User: ("username", "is_active", "last_login", "date_joined"),
    Member: ("person", "role"),
    Invitation: ("note", "role", "author", "created", "expires"),
    SignedIn: ("person", "address", "browser", "began"),
    Event: ("at", "person", "words"),
    Share: ("project", "person", "role"),
    OfficeSection: ("name",),
    Run: ("project", "kind", "state", "asked", "started", "ended", "message"),
}
#: what is no administrator's business: secrets, and the work of others
HIDDEN: dict[Any, tuple[str, ...]] = {
    User: ("password", "groups", "user_permissions"),
    Invitation: ("digest",),
    SignedIn: ("key",),
    Run: ("loaded", "answer", "key"),
}

admin.site.unregister([User, Group])
for model, columns in COLUMNS.items():
    options = {"list_display": columns, "exclude": HIDDEN.get(model, ())}
    admin.site.register(model, type(f"{model.__name__}ToLookAt", (ToLookAt,), options))


@admin.register(Project)
class Projects(ToLookAt):
    """Projects without their content."""

    list_display = ("name", "owner", "archived", "deleted", "changed", "revisions_made")
    fields = ("id", "name", "owner", "office_role", "archived", "deleted", "created", "changed")

    @admin.display(description="revisions")
    def revisions_made(self, project: Project) -> int:
        """How many revisions there are."""
        return Revision.objects.filter(project=project).count()


admin.site.site_header = admin.site.site_title = "Lorica"
