"""Who reads what: looked at, given, taken away, shared; and what that would do."""
