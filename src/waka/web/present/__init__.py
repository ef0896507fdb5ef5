"""From the values of use cases to what the API gives."""
