"""Simulated devices and services that ship with Waka: used by the demo and the tests, never needed for real work."""
