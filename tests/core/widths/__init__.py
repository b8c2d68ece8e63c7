"""Tests of the widths room."""
