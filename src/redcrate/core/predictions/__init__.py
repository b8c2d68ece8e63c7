"""Predictions: what to ask about a change before it is shown, and what the answer was worth."""
