"""Colours, patterns and lettering of the window."""
