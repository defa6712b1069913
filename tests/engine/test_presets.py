"""Sets of limits: every role has a name, and a document takes each."""

import unittest
from typing import get_args

from engine.document import Document, read_document
from engine.document.base import Role
from engine.document.presets import PRESETS


class Presets(unittest.TestCase):
    def test_a_document_takes_each_whole(self):
        self.assertEqual(len({p.name for p in PRESETS}), len(PRESETS))
        for preset in PRESETS:
            data = Document().model_dump(mode="json")
            data["rules"] |= {
                "rafter_deflection_ratio": preset.rafters,
                "eaves_sway_ratio": preset.sway,
                "deflections": preset.roles,
                "deflections_variable": preset.variable,
            }
            rules = read_document(data).rules
            self.assertLessEqual({*preset.roles, *preset.variable}, set(get_args(Role)))
            self.assertEqual(rules.deflection_ratio("rafter"), preset.rafters)
            self.assertEqual(rules.deflection_ratio("column"), preset.sway)
            for role, ratio in preset.roles.items():
                self.assertEqual(rules.deflection_ratio(role), ratio)

    def test_what_minds_movement_more_has_the_stricter_limits(self):
        by_name = {p.name: p for p in PRESETS}
        sheds, sheets, brittle = (by_name[n] for n in ("Secondary sheds", "Metal sheeting", "Brittle finishes"))
        for weak, strict in ((sheds, sheets), (sheets, brittle)):
            self.assertLess(weak.sway, strict.sway)
            self.assertLess(weak.rafters, strict.rafters)
            for role in weak.roles.keys() & strict.roles.keys():
                self.assertLessEqual(weak.roles[role], strict.roles[role])
