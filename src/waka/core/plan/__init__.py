"""Filing plans: what an area says of the documents in it."""
