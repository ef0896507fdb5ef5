"""The maker of papers that the models are fitted on."""
