"""Tables as text: CSV (RFC 4180), read whole before anything is done, and written so that no spreadsheet runs what stands in it."""
