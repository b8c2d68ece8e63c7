"""Tests of the proof room."""
