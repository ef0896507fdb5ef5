"""Bringing documents in: uploads, watched folders, reading, arranging pages."""
