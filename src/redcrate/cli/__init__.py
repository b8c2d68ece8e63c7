"""The command line: runs without a display, and without Qt where Qt is not needed."""
