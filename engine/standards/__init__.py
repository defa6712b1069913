"""Families of standards: what a document's actions, combinations and imperfections follow."""
