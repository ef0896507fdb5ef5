"""People and their sessions."""
