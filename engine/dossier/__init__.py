"""The dossier as values: chapters of headings, paragraphs, tables, drawings and proofs. What sets them in type stands outside
(`publish`)."""
