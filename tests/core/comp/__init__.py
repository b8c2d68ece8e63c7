"""Tests of the comp room."""
