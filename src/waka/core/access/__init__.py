"""Who reads what, as values: which bearers of grants govern a folder, what people have there, what a change would do."""
