"""What the places that list findings share: the search, what reading one does to the session, and its parts."""
