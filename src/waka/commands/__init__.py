"""Commands that are programs of their own: ``./waka pattern``, ``./waka manifest``."""
