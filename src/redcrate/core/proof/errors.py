"""Why a browser could not be asked."""

from redcrate.core.errors import RedCrateError


class NoBrowser(RedCrateError):
    """There is no browser, no driver for it, or nothing to speak with them."""


class BrowserFailed(RedCrateError):
    """A browser or its driver did not start, ended, did not answer, or does not keep to what it was told."""
