"""The words that documents use, as data: one table a language, and what they mean as concepts. A further language is a further table."""
