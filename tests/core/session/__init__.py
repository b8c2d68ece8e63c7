"""Tests of core/session."""
