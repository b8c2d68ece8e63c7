"""The Diagrams screen: a contact sheet of drawings, one of them large, and what hands them over."""
