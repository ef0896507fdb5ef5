"""The rulebook language: an area's filing rules as one text and one tree."""
