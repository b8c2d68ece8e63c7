"""Findings: what is wrong or suspicious on a page, proved with numbers, with ways to mend it."""

from redcrate.core.findings.finding import Family, Finding, Fix, Severity
from redcrate.core.findings.register import FAMILIES, findings_of

__all__ = ["FAMILIES", "Family", "Finding", "Fix", "Severity", "findings_of"]
