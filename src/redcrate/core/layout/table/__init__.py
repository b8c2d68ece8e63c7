"""Tables: one module for each part of CSS 2.2 chapter 17, as CSS Tables 3 tells what browsers do."""
