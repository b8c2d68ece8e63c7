"""Layout: boxes → fragments with used sizes and places. One module for each decision of CSS 2.2."""
