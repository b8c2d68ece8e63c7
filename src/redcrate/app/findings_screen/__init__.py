"""The Findings screen: findings read at length."""
