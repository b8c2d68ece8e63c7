"""Font files, shaping, line-break opportunities, and metrics of text."""
