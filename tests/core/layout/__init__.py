"""Tests of redcrate.core.layout."""
