"""What a project may begin with stands, is covered by the checks, and passes."""

import unittest

from engine.chain import run
from engine.structure.audit import audit
from engine.templates import TEMPLATES


class Templates(unittest.TestCase):
    def test_every_building_passes_and_is_covered(self):
        for template in TEMPLATES.values():
            document = template.make()
            if document.hall is None:
                continue
            with self.subTest(template.key):
                chain = run(document)
                whole = chain.verification.whole
                self.assertEqual((whole.failing, whole.not_covered), (0, 0))
                self.assertEqual(whole.passing, len(chain.structure.members))
                # ordinary, not oversized
                self.assertGreater(whole.worst, 0.8)
                self.assertEqual([s.what for s in audit(chain.structure) if s.weight == "fault"], [])

    def test_one_is_empty(self):
        self.assertEqual([t.key for t in TEMPLATES.values() if t.make().hall is None], ["empty"])
