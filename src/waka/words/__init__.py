"""All that Waka says about what it keeps: a catalogue of codes, and words made from a code with its parameters.

What is kept is data: a code and parameters (ids, names, numbers). Words are made when somebody reads them.
"""
