"""Bytes to text, pages and boxes; each format is read in a child process under limits."""
