"""The computing core: no Qt, no interface. Rooms import only from the floors below them.

units, errors, geometry → markup → style → text → boxes → layout → page → explain, rows, comp, overflow → edit → files →
widths → predictions → findings, diagram, proof, exercises → handout → session. `pyproject.toml` has them all.
"""
