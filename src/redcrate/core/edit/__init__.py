"""Edits as patches on the source text; nothing here changes a document."""
