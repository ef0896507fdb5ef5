"""Content files by SHA-256, and the pictures made of their pages."""
