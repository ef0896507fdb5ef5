"""Rulebooks, and how fast they decide and file."""
