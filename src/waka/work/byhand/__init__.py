"""Changes by hand: move, copy, tag, discard, restore, put a new version on a document."""
