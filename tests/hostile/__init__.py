"""Pages that are made to be slow, large or broken, and how they are held to a bound."""
