"""Labelled drawings of boxes: shapes and labels, a painter protocol, an SVG end and a recorder."""
