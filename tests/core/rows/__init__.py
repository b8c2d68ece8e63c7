"""Tests of core/rows."""
