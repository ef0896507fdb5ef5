"""Waka: files documents by their facts, changes the drive by manifests, finds records."""

VERSION = "0.1.0"
