"""Equations and sentences: how a box spends its container, and why it is what it is."""

from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.explain.terms import Equation, Reason, Source, Term

__all__ = ["Equation", "Reason", "Source", "Term", "across", "down"]
