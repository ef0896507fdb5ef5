"""Accounts as values: how good a password is, people read from a table."""
