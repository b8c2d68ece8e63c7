"""The small driver for all tests of the room."""

from tests.driving import browser, small_driver

__all__ = ["browser", "small_driver"]
