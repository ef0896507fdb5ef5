"""The queue on PostgreSQL and the worker that empties it."""
