"""The Widths screen: the page at all its widths side by side."""
