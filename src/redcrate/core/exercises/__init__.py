"""Exercises: tasks whose conditions are stated on boxes, so that any right way counts."""
