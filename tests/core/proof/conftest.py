"""The small driver for all tests of the room."""

from tests.driving import small_driver

__all__ = ["small_driver"]
