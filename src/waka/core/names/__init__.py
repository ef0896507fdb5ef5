"""Portable names and the pattern language that prints and reads them."""
