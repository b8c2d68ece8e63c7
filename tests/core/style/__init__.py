"""Tests of redcrate.core.style."""
