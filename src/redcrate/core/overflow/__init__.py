"""What of a page is clipped away, and what reaches beyond its window. Imports nothing above the page."""
