"""The HTTP JSON API, sessions and static files. It decides nothing."""
