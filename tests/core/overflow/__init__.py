"""Tests of what reaches beyond a window."""
