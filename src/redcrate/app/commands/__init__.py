"""The commands of the window as data, and the list in which any of them is found by its words."""
