"""Tests of core/findings."""
