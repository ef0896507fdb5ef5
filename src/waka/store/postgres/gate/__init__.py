"""The gate's SQL: a manifest's lines are written once, and each step joins with them, set-based."""
