"""Tests of redcrate.core.boxes."""
