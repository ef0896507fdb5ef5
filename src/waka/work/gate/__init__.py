"""The gate: every change to the drive goes through here, is checked and done, and can be undone."""
