"""Resources of the API, one module each."""
