"""The only room that speaks SQL or touches content files."""
