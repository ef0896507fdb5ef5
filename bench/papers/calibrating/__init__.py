"""The maker of papers that chances are calibrated on: it knows nothing of the one that models are fitted on."""
