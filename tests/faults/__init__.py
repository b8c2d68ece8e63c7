"""Campaigns of faults, each repeatable by a seed: what is killed, what fails, what is damaged, who asks. tools/faults.py runs them."""
