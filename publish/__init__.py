"""What sets a dossier in type: pages (PDF), spreadsheets. It reads `engine.dossier` and knows no server."""
