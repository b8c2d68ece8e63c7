"""The bench: outline, sheet, selected box and budget."""
