"""The sheet: the page at one width, to scale, its marks, and dragging its edges."""
