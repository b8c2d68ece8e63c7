"""The computing core: no Qt, no interface. Rooms import only from the floors below them.

units, errors, geometry → markup → style → text → boxes → layout → page → explain, rows → edit →
findings, widths, diagram → document → session.
"""
