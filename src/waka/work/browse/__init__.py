"""Looking: folders, documents, searches, recent work."""
