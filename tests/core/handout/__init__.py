"""The HTML report that is handed over."""
