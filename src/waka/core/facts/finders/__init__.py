"""One module a fact: each gives candidates with box, score, the way each was found, and why."""
