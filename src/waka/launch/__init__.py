"""Starts and stops what Waka consists of: PostgreSQL, web, worker, front-end build."""
