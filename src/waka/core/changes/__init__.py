"""Changes to the drive, their inverses, and the checks that need no database."""
