"""Manifests: plan changes to many documents, look at every line, try, run, stop."""
