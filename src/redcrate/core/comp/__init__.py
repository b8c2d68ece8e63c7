"""The comp: a picture of the intended page, what is measured on it, and how a box compares with it."""
