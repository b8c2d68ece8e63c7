"""Tests of core/edit."""
