"""Predict first: the question over the sheet, the ghost on it, and the prediction beside its outcome."""
