"""The page as a function of the window's width: what is so at each width, the px at which it changes, straight pieces."""
