"""Red Crate's geometry held against that of a browser that is installed here, asked through W3C WebDriver."""
