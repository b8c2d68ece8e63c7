"""Red Crate: sees, explains and mends the sizes and gaps of the boxes of a web page."""

__version__ = "0.1.0"
