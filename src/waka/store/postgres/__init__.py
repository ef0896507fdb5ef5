"""Queries, one module a subject; the SQL stands beside the function that runs it."""
