"""Tests of core/diagram."""
