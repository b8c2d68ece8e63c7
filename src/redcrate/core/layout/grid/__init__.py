"""Grid containers: one module for each part of CSS Grid 1 §7 to §12."""
