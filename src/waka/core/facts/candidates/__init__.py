"""What could be a fact: every value on a paper that has the form of one, with all that speaks for and against it as features."""
