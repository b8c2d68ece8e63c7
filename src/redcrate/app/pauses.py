"""How long the window waits before it does something: the one place through which all its timers are set.

Tests hurry, so that nobody waits for a pause that is meant for people.
"""

_factor = 1.0


def pause_ms(usual: int) -> int:
    """A pause of `usual` ms, as long as it is now."""
    return round(usual * _factor)


def hurry(factor: float) -> None:
    """Make all pauses that begin from now on so many times as long."""
    global _factor
    _factor = factor
