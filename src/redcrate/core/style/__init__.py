"""Cascade: element tree and stylesheets → specified and computed values with their origins."""
