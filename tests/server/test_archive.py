"""A project out and in as one file: revisions, names, pictures; what is none is refused and makes nothing."""

import io
import json
import zipfile

from django.core.files.uploadedfile import SimpleUploadedFile

from server.projects import archive
from server.projects.models import Picture, Project, Revision
from tests.server.test_dossiers import DossierCase
from tests.server.test_pictures import drawn


class Archives(DossierCase):
    def setUp(self):
        super().setUp()
        file = SimpleUploadedFile("yard.png", drawn())
        self.key = self.client.post(f"/api/{self.at}/pictures", {"file": file}).json()["key"]
        placed = [{"name": self.key, "caption": "Yard", "width": 0.5}]
        changes = [("dossier.chapters.basis.pictures", placed), ("site.altitude", 120.0), ("site.altitude", 240.0)]
        for base, (path, value) in enumerate(changes, 1):
            body = {"base": base, "label": f"{path} set", "changes": [{"path": path, "value": value}]}
            self.assertEqual(self.send("post", "edits", body).status_code, 200)
        self.send("post", "versions", {"number": 2, "name": "tender"})

    def packed(self):
        answer = self.get("archive")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        return answer.content

    def take(self, data):
        return self.client.post("/api/projects/import/archive", {"file": SimpleUploadedFile("p.zip", data)})

    def test_out_and_in_again(self):
        self.send("post", "undo", {"base": 4})
        answer = self.take(self.packed())
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        made = Project.objects.get(pk=answer.json()["id"])
        old = Project.objects.get(pk=self.project["id"])
        # what stands comes last, what was undone before it
        kept = [(r.name, r.content) for r in made.revisions.order_by("number")]
        sent = [(r.name, r.content) for r in old.revisions.order_by("number")]
        self.assertEqual(kept, [sent[0], sent[1], sent[3], sent[2]])
        self.assertEqual(made.head.content["site"]["altitude"], 120.0)
        self.assertEqual(made.revisions.order_by("number")[1].name, "tender")
        self.assertRegex(made.head.label, r"^site\.altitude set \(ada, 20\d\d-")
        self.assertEqual([p.key for p in made.pictures.all()], [self.key])
        self.assertEqual(made.owner, self.user)

    def test_what_is_issued_goes_along(self):
        self.made()
        self.send("post", "issues", {"base": 4, "purpose": "tender"})
        with zipfile.ZipFile(io.BytesIO(self.packed())) as found:
            self.assertTrue(found.read("issues/1.pdf").startswith(b"%PDF"))
            self.assertEqual(json.loads(found.read("issues/1.json"))["site"]["altitude"], 240.0)
            self.assertIn("README.txt", found.namelist())

    def test_pictures_go_with_their_project(self):
        gone = self.client.delete(f"/api/{self.at}", {"name": "Beam"}, content_type="application/json")
        self.assertEqual((gone.status_code, Picture.objects.count()), (204, 0))

    def rewritten(self, **changed):
        """The archive with other contents of some files; None: without it."""
        file = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(self.packed())) as old, zipfile.ZipFile(file, "w") as new:
            for name in old.namelist():
                content = changed.get(name, old.read(name))
                if content is not None:
                    new.writestr(name, content)
        return file.getvalue()

    def test_what_is_none_makes_nothing(self):
        before = Project.objects.count(), Revision.objects.count(), Picture.objects.count()
        listed = {"format": "lorica-project", "name": "x", "revisions": [{"file": "../../etc/passwd", "label": ""}]}
        cases = (
            (b"Dear Sir", "no archive"),
            (self.packed()[:400], "no archive"),
            (self.rewritten(**{"project.json": None}), "lacks"),
            (self.rewritten(**{"revisions/0002.json": None}), "lacks"),
            (self.rewritten(**{"project.json": "{}"}), "no project of Lorica's"),
            (self.rewritten(**{"project.json": json.dumps(listed)}), "no project of Lorica's"),
            (self.rewritten(**{"revisions/0003.json": '{"hall": 7}'}), "revisions/0003.json"),
            (self.rewritten(**{f"pictures/{self.key}": b"no picture"}), "no picture"),
        )
        for data, words in cases:
            with self.subTest(words):
                answer = self.take(data)
                self.assertEqual(answer.status_code, 422, answer.content[:200])
                self.assertIn(words, answer.json()["message"])
        # a bit turned inside, and one that says that it is under a password
        whole = self.packed()
        at = whole.index(b"revisions/0001.json") + 60
        locked = bytearray(whole)
        for mark, offset in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
            found = whole.find(mark)
            while found >= 0:
                locked[found + offset] |= 1
                found = whole.find(mark, found + 4)
        for data in (whole[:at] + bytes([whole[at] ^ 255]) + whole[at + 1 :], bytes(locked)):
            answer = self.take(data)
            self.assertEqual(
                (answer.status_code, "no archive" in answer.json()["message"]), (422, True), answer.content
            )
        self.addCleanup(setattr, archive, "MOST_BYTES", archive.MOST_BYTES)
        archive.MOST_BYTES = 1000
        self.assertIn("grows beyond", self.take(self.packed()).json()["message"])
        self.assertEqual((Project.objects.count(), Revision.objects.count(), Picture.objects.count()), before)
