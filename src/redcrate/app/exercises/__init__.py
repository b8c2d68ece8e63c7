"""The Exercises screen."""
