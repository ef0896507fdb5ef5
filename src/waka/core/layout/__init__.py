"""How a page is laid out: its words as cells, rows and columns. Knows nothing of what they mean."""
