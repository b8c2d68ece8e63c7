"""What is handed over: a page's boxes, drawn and explained, in one file that opens anywhere."""

from redcrate.core.handout.html_report import ReportOptions, html_report

__all__ = ["ReportOptions", "html_report"]
