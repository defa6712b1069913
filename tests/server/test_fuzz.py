"""Requests and documents made at random: each is answered below 500, in time, and as the description of the API says.

LORICA_LONG=1 makes some ten thousand of them.
"""

import copy
import json
import os
import time
from unittest import mock

import schemathesis
from django.test import override_settings
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from engine.demo import DEMOS
from server.api import api, chains
from server.projects.models import Project, Revision, Run
from tests.server.test_api import ApiCase

LONG = os.environ.get("LORICA_LONG") == "1"
#: examples of each route, of documents, of changes
ROUTE, DOCUMENT, CHANGE = (150, 1500, 1500) if LONG else (2, 20, 30)
#: seconds that no answer may take
MOST = 10.0
DOCUMENTS = [make().model_dump(mode="json") for make in DEMOS.values()]
ODD = st.one_of(
    st.sampled_from(
        [0, -1, 1, 1e-9, 1e8, 1e308, -1e308, 7500.0, 50, 2**63, 10**40, "", " ", None, [], {}, True, "nothing"]
    ),
    st.sampled_from(["IPE 300", "x" * 5000, "a\u202eb", "=1+1", "../../etc", "name", [0] * 200, [[]], {"kind": "own"}]),
    st.floats(allow_nan=False, allow_infinity=False),
    st.integers(),
    st.text(max_size=20),
)


def few(examples):
    """Settings that give the same examples every time."""
    return settings(
        max_examples=examples,
        derandomize=True,
        database=None,
        deadline=None,
        suppress_health_check=list(HealthCheck),
        phases=[Phase.explicit, Phase.generate, Phase.shrink] if LONG else [Phase.explicit, Phase.generate],
    )


def places(value, path=()):
    """Paths to every value within a value."""
    yield path
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, one in inner:
        yield from places(one, (*path, key))


PLACES = [[path for path in places(document) if path] for document in DOCUMENTS]


@st.composite
def spoilt(draw):
    """A document of the demo with one to three values replaced by odd ones, doubled or left out."""
    number = draw(st.integers(0, len(DOCUMENTS) - 1))
    document = copy.deepcopy(DOCUMENTS[number])
    for _ in range(draw(st.integers(1, 3))):
        *way, last = draw(st.sampled_from(PLACES[number]))
        try:
            holder = document
            for key in way:
                holder = holder[key]
            how = draw(st.sampled_from(["set", "set", "set", "drop", "double"]))
            if how == "set":
                holder[last] = draw(ODD)
            elif how == "drop":
                del holder[last]
            elif isinstance(holder, list):
                holder.append(copy.deepcopy(holder[last]))
        except (KeyError, IndexError, TypeError):
            continue
    return document


@override_settings(WORKERS=True)
class Fuzz(ApiCase):
    def setUp(self):
        super().setUp()
        self.project = self.new()
        self.head = Revision.objects.get(project=self.project["id"])
        # what is looked at is not there, and is not waited for
        patient = mock.patch.object(chains, "PATIENCE", 0.0)
        patient.start()
        self.addCleanup(patient.stop)

    def again(self):
        """The project as it was."""
        Revision.objects.filter(project=self.project["id"], number__gt=1).update(parent=None)
        Project.objects.filter(id=self.project["id"]).update(head=self.head, deleted=None, redo=[])
        Run.objects.filter(project=self.project["id"]).delete()
        Revision.objects.filter(project=self.project["id"], number__gt=1).delete()

    def bears(self, answer, described=None):
        self.assertLess(answer.status_code, 500, answer.content[:2000])
        if described is not None:
            self.assertIn(str(answer.status_code), described, answer.content[:300])
        if answer.status_code >= 400:
            self.assertTrue(answer.json()["message"], answer.content[:300])

    def timed(self, call):
        began = time.monotonic()
        answer = call()
        self.assertLess(time.monotonic() - began, MOST)
        return answer

    def test_every_route_as_it_is_described(self):
        described = json.loads(json.dumps(api.get_openapi_schema(), default=str))
        for found in schemathesis.openapi.from_dict(described).get_all_operations():
            operation = found.ok()
            with self.subTest(f"{operation.method} {operation.path}"):
                self._hammer(operation, described["paths"][operation.path][operation.method]["responses"])

    def _hammer(self, operation, responses):
        @few(ROUTE)
        @given(operation.as_strategy())
        def ask(case):
            self.again()
            path = operation.path.replace("{project_id}", self.project["id"])
            if operation.method == "delete" and operation.path.endswith("{project_id}") and isinstance(case.body, dict):
                case.body["name"] = ""
            body = json.dumps(case.body) if operation.method not in ("get",) and isinstance(case.body, dict) else ""
            answer = self.timed(
                lambda: self.client.generic(
                    operation.method.upper(),
                    path,
                    body,
                    content_type="application/json",
                    query_params={k: str(v) for k, v in (case.query or {}).items()},
                )
            )
            self.bears(answer, responses)

        ask()

    def test_documents(self):
        @few(DOCUMENT)
        @given(spoilt())
        def take_in(document):
            body = json.dumps(document)
            answer = self.timed(lambda: self.client.post("/api/projects/import", body, content_type="application/json"))
            self.bears(answer)
            if answer.status_code == 201:
                # what is taken can be looked at, and set out
                self.bears(self.client.get(f"/api/projects/{answer.json()['id']}/structure"))

        take_in()

    def test_changes(self):
        paths = [".".join(map(str, path)) for path in PLACES[0]]
        change = st.fixed_dictionaries(
            {"path": st.sampled_from(paths) | st.text(max_size=30), "value": ODD},
            optional={"do": st.sampled_from(["set", "add", "remove", "replace", "clear"]), "was": ODD},
        )

        @few(CHANGE)
        @given(st.lists(change, min_size=1, max_size=3))
        def edit(changes):
            self.again()
            body = json.dumps({"base": 1, "label": "x", "changes": changes})
            address = f"/api/projects/{self.project['id']}/edits"
            self.bears(self.timed(lambda: self.client.post(address, body, content_type="application/json")))

        edit()
