"""Pictures taken in for the dossier: checked, written anew, set in type, and seen by nobody else."""

import io

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image
from pypdf import PdfReader

from server.projects import pictures
from server.projects.models import Picture, Project, Share
from tests.server.test_dossiers import DossierCase


def drawn(kind="PNG", size=(60, 40), mode="RGB", **how):
    file = io.BytesIO()
    Image.new(mode, size, (200, 30, 30, 128)[: len(mode)]).save(file, kind, **how)
    return file.getvalue()


class Pictures(DossierCase):
    def take(self, data, name="crack.png", client=None):
        file = SimpleUploadedFile(name, data)
        return (client or self.client).post(f"/api/{self.at}/pictures", {"file": file})

    def place(self, *placed, base=1):
        change = {"path": "dossier.chapters.basis.pictures", "value": list(placed)}
        return self.send("post", "edits", {"base": base, "label": "x", "changes": [change]})

    def test_taken_and_shown_in_the_dossier(self):
        answer = self.take(drawn("JPEG", (120, 90)), "site.jpg")
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        found = answer.json()
        self.assertEqual((found["width"], found["height"]), (120, 90))
        shown = self.get(f"pictures/{found['key']}")
        self.assertEqual((shown.status_code, shown["Content-Type"]), (200, "image/jpeg"))
        self.assertEqual(Image.open(io.BytesIO(shown.content)).size, (120, 90))
        before = self.made()["file"]
        placed = {"name": found["key"], "caption": "The yard, seen from A", "width": 0.5}
        self.assertEqual(self.place(placed).status_code, 200)
        after = self.made()["file"]
        self.assertNotEqual(before["key"], after["key"])
        reader = PdfReader(io.BytesIO(self.get(f"dossier/pdf?key={after['key']}").content))
        images = [(k, image) for k, page in enumerate(reader.pages) for image in page.images]
        self.assertEqual(len(images), 1)
        self.assertEqual(images[0][1].image.size, (120, 90))
        words = " ".join(reader.pages[images[0][0]].extract_text().split())
        self.assertIn("The yard, seen from A", words)

    def test_shown_in_the_dossier_as_one_page(self):
        key = self.take(drawn("JPEG"), "site.jpg").json()["key"]
        self.place({"name": key, "caption": "The yard", "width": 0.5}, {"name": "0" * 16, "caption": "", "width": 1})
        answer = self.get("dossier/html")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/html; charset=utf-8"))
        self.assertIn("attachment", answer["Content-Disposition"])
        page = answer.content.decode()
        self.assertIn("Revision 2", page)
        self.assertEqual(page.count("data:image/jpeg;base64,"), 1)
        self.assertIn("<figcaption>The yard</figcaption>", page)
        self.assertEqual(page.count("not among those of the project"), 1)

    def test_one_that_is_not_there_is_told(self):
        self.place({"name": "0" * 16, "caption": "Lost", "width": 1})
        words = " ".join(self.pages(f"dossier/pdf?key={self.made()['file']['key']}"))
        self.assertIn("This picture is not among those of the project", words)
        # a key is a key, never a path
        self.assertEqual(self.place({"name": "../../etc/passwd", "width": 1}, base=2).status_code, 422)

    def test_turned_upright_made_small_and_rid_of_what_else_it_bears(self):
        exif = Image.Exif()
        exif[0x0112] = 6
        exif[0x010E] = "a secret place"
        found = self.take(drawn("JPEG", (4000, 1000), exif=exif), "phone.jpg").json()
        self.assertEqual((found["width"], found["height"]), (600, 2400))
        self.assertNotIn(b"a secret place", bytes(Picture.objects.get().data))
        transparent = self.take(drawn("WEBP", mode="RGBA")).json()
        self.assertEqual(self.get(f"pictures/{transparent['key']}")["Content-Type"], "image/png")
        # the same again is the same one
        self.assertEqual(self.take(drawn("WEBP", mode="RGBA")).json()["key"], transparent["key"])
        self.assertEqual(Picture.objects.count(), 2)

    def test_what_is_no_picture_is_refused_in_a_sentence(self):
        whole = drawn("JPEG", (200, 200))
        svg = b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"
        cases = ((b"Dear Sir", "no picture"), (svg, "no picture"), (whole[:300], "cannot be read"), (drawn("GIF", mode="P"), "no picture"))  # fmt: skip
        for data, words in cases:
            with self.subTest(words):
                answer = self.take(data)
                self.assertEqual(answer.status_code, 422, answer.content[:200])
                self.assertIn(words, answer.json()["message"])
        self.assertIn("9000 × 9000 pixels", self.take(drawn(mode="L", size=(9000, 9000))).json()["message"])
        self.assertEqual(Picture.objects.count(), 0)

    def test_no_more_than_a_project_may_have(self):
        self.addCleanup(setattr, pictures, "MOST", pictures.MOST)
        pictures.MOST = 1
        self.assertEqual(self.take(drawn()).status_code, 201)
        self.assertIn("most it may have", self.take(drawn(size=(30, 30))).json()["message"])

    def test_a_viewer_sees_and_adds_none(self):
        key = self.take(drawn()).json()["key"]
        viewer, client = User.objects.create_user("vera", password="x"), Client()
        client.force_login(viewer)
        share = Share.objects.create(project=Project.objects.get(), person=viewer, role="viewer")
        self.assertEqual(self.get(f"pictures/{key}", client).status_code, 200)
        self.assertEqual(self.take(drawn(size=(9, 9)), client=client).status_code, 403)
        share.delete()
        self.assertEqual(self.get(f"pictures/{key}", client).status_code, 404)
