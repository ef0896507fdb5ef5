"""The Saltmarsh Boatyard Trust: invented, deterministic demo data."""
