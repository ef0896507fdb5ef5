"""The models: chances of kinds and of values, by weights that were fitted on made papers (``bench/papers``)."""
