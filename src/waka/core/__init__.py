"""Pure computation: no I/O, no clock, no SQL, no web. Values in, values out."""
