"""The Proof screen: the page beside the browser that is installed here."""
