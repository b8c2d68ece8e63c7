"""Tests of redcrate.core.markup."""
