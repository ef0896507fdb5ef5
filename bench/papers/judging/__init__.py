"""The maker of papers that the models are judged by, written last: its misses are not looked at while mending."""
