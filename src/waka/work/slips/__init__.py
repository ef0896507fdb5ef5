"""Filing slips: what was found on an arrival, what a person corrected, where it goes, and filing it."""
