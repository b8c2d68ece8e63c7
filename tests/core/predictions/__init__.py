"""Questions about changes."""
