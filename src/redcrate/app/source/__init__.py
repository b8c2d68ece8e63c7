"""The Source screen: the page's own text, edited with everything else in one history."""
