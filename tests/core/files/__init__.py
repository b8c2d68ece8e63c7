"""Tests of core/files."""
