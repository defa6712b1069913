"""The database of an office that has worked since before people shared: its migrations run with data in it."""

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase


class Sharing(TransactionTestCase):
    def migrate(self, targets):
        executor = MigrationExecutor(connection)
        executor.migrate(targets)
        return MigrationExecutor(connection).loader.project_state(targets).apps

    def tearDown(self):
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_sections_of_one_name_are_kept_apart(self):
        before = self.migrate([("projects", "0006_standing")])
        users = [before.get_model("auth", "User").objects.create(username=name) for name in ("ada", "ben")]
        sections = before.get_model("projects", "OfficeSection").objects
        for user in users:
            for name in ("PG 1", f"{user.username}’s own"):
                sections.create(owner=user, name=name, definition={"name": name, "shape": "welded I"})
        before.get_model("projects", "Project").objects.create(owner=users[0], name="Shed")
        before.get_model("projects", "Result").objects.create(key="k", screen=b"", size=1)
        executor = MigrationExecutor(connection)
        targets = executor.loader.graph.leaf_nodes()
        after = self.migrate(targets)
        found = {s.name: s.definition["name"] for s in after.get_model("projects", "OfficeSection").objects.all()}
        self.assertEqual(found, {name: name for name in ("PG 1", "PG 1 (ada)", "ada’s own", "ben’s own")})
        project = after.get_model("projects", "Project").objects.get()
        self.assertEqual((project.card, project.office_role), ({}, ""))
