"""A dossier as a document for word processors."""
