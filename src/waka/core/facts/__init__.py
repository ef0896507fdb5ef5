"""What is known about a document: kinds, facts with their sources, and how to find them in text."""
