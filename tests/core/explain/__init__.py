"""Tests of core/explain."""
