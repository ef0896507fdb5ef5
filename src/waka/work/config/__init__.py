"""What keepers set up: filing plans, templates, parties, the settings of the drive."""
