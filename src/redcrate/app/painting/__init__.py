"""Painting of pages, drawings and part codes with QPainter."""
