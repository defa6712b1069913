"""Changes that are merged, refused in words or in conflict, and none that vanishes."""

import json
import random
import threading

from django.contrib.auth.models import User
from django.db import connection
from django.test import Client, TransactionTestCase

from engine.document import Document
from engine.errors import ModelError
from server.projects import revisions
from server.projects.changes import Change, changed, meet, same_places, touched
from server.projects.models import Project
from tests.quick import quick_passwords
from tests.server.test_api import ApiCase


def case(name, nature="wind"):
    return {"name": name, "nature": nature}


class Merged(ApiCase):
    def change(self, project, base, *changes):
        body = {"base": base, "label": "test", "changes": list(changes)}
        return self.post(f"projects/{project['id']}/edits", body)

    def test_items_added_to_one_list_all_stand(self):
        project = self.new()
        for name in ("One", "Two", "Three"):
            answer = self.change(project, 1, {"path": "cases", "do": "add", "value": case(name)})
            self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual([c["name"] for c in answer.json()["document"]["cases"]], ["One", "Two", "Three"])
        self.assertEqual(answer.json()["revision"]["number"], 4)

    def test_the_same_name_twice_is_refused_in_words(self):
        project = self.new()
        self.change(project, 1, {"path": "cases", "do": "add", "value": case("One")})
        again = self.change(project, 1, {"path": "cases", "do": "add", "value": case("One", "snow")})
        self.assertIn(again.status_code, (409, 422))
        self.assertEqual(len(self.client.get(f"/api/projects/{project['id']}").json()["document"]["cases"]), 1)

    def test_different_things_merge_and_the_same_thing_conflicts(self):
        project = self.new()
        self.change(project, 1, {"path": "hall.bays.0.span", "value": 30})
        pitch = self.change(project, 1, {"path": "hall.bays.0.pitch", "value": 12})
        self.assertEqual(pitch.status_code, 200)
        bay = pitch.json()["document"]["hall"]["bays"][0]
        self.assertEqual((bay["span"], bay["pitch"]), (30, 12))
        late = self.change(project, 1, {"path": "hall.bays.0.span", "value": 31})
        self.assertEqual(late.status_code, 409)
        # a list set outright touches all of it
        outright = self.change(project, 1, {"path": "hall.bays", "value": [{"span": 20}]})
        self.assertEqual(outright.status_code, 409)

    def test_what_was_removed_by_another_is_told(self):
        project = self.new()
        added = self.change(project, 1, {"path": "cases", "do": "add", "value": case("One")}).json()
        item = added["document"]["cases"][0]
        self.assertEqual(self.change(project, 2, {"path": "cases", "do": "remove", "value": item}).status_code, 200)
        late = self.change(project, 2, {"path": "cases", "do": "replace", "was": item, "value": item | {"name": "Two"}})
        self.assertEqual(late.status_code, 409)
        gone = self.change(project, 3, {"path": "cases", "do": "remove", "value": item})
        self.assertEqual((gone.status_code, gone.json()["place"]), (422, "cases"))
        self.assertIn("“One” is no longer there", gone.json()["message"])

    def test_numbers_of_items_never_point_at_another(self):
        project = self.new()
        jigs = [{"kind": "floor", "name": name, "level": level} for name, level in (("a", 3.0), ("b", 5.0))]
        for number, jig in enumerate(jigs, 1):
            answer = self.change(project, number, {"path": "jigs", "do": "add", "value": jig})
        first = answer.json()["document"]["jigs"][0]
        self.change(project, 3, {"path": "jigs", "do": "remove", "value": first})
        late = self.change(project, 3, {"path": "jigs.0.level", "value": 4.0})
        self.assertEqual(late.status_code, 409)


class Rules(ApiCase):
    def test_touched_by_name_by_item_and_by_number(self):
        before = {"cases": [case("a"), case("b")], "loads": [{"f": 1}], "grid": [1, 2]}
        after = {"cases": [case("b", "snow"), case("a")], "loads": [{"f": 1}, {"f": 2}], "grid": [1, 3]}
        found = touched(before, after)
        self.assertEqual(found, {("cases", "b", "nature"), ("loads", '{"f": 2}'), ("grid", "1")})

    def test_meeting(self):
        self.assertTrue(meet({("a", "b")}, {("a", "b", "c")}))
        self.assertTrue(meet({("a", "b", "c")}, {("a",)}))
        self.assertFalse(meet({("a", "b")}, {("a", "c")}))
        self.assertFalse(meet(set(), {("a",)}))

    def test_same_places(self):
        one, other = {"jigs": [case("a"), case("b")]}, {"jigs": [case("b"), case("a")]}
        self.assertFalse(same_places([Change("jigs.0.nature", 1)], one, other))
        self.assertTrue(same_places([Change("jigs.0.nature", 1)], one, {"jigs": [case("a", "snow"), case("b")]}))
        self.assertFalse(same_places([Change("grid.0", 1)], {"grid": [1]}, {"grid": [1, 2]}))

    def test_items_of_a_list(self):
        document = {"a": [{"x": 1}, {"x": 2}]}
        found = changed(document, [Change("a", {"x": 3}, "replace", {"x": 1}), Change("a", {"x": 2}, "remove")])
        self.assertEqual(found, {"a": [{"x": 3}]})
        self.assertEqual(changed({}, [Change("b", 1, "add")]), {"b": [1]})
        self.assertEqual(
            changed({"h": {"left": 1, "right": 2}}, [Change("h.left", None, "clear")]), {"h": {"right": 2}}
        )
        with self.assertRaisesRegex(ModelError, "no place"):
            changed({"h": {}}, [Change("h.left", None, "clear")])
        for change in (Change("a", {"x": 9}, "remove"), Change("a.0", 1, "add"), Change("a.x", 1, "add")):
            with self.assertRaises(ModelError):
                changed(document, [change])


@quick_passwords
class TwoBrowsers(TransactionTestCase):
    def test_a_hundred_edits_as_fast_as_they_go_all_stand_or_are_refused_in_words(self):
        user = User.objects.create_user("ada", password="gusset-plate")
        project = revisions.create(user, Document(name="Busy"), "new")
        told: list[tuple[str, int, str]] = []
        lost: list[str] = []

        def browser(mark: str) -> None:
            client, rng = Client(), random.Random(mark)
            client.force_login(user)
            base = 1
            try:
                for i in range(50):
                    name = f"{mark}{i}"
                    body = {
                        "base": base,
                        "label": name,
                        "changes": [{"path": "sets", "do": "add", "value": {"name": name, "members": []}}],
                    }
                    answer = client.post(
                        f"/api/projects/{project.id}/edits", json.dumps(body), content_type="application/json"
                    )
                    words = answer.json()
                    told.append((name, answer.status_code, str(words.get("message", words.get("label", "")))))
                    if answer.status_code == 200 and rng.random() < 0.7:
                        base = words["revision"]["number"]
            except Exception as error:
                lost.append(repr(error))
            finally:
                connection.close()

        threads = [threading.Thread(target=browser, args=(mark,)) for mark in "xy"]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(lost, [])
        self.assertEqual(len(told), 100)
        stand = {c["name"] for c in Project.objects.get().head.content["sets"]}
        self.assertEqual(stand, {name for name, status, _ in told if status == 200})
        # nothing here touches what the other touches
        self.assertEqual({status for _, status, _ in told}, {200})
