"""Tests of the exercises room."""
