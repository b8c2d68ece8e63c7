"""The capabilities of a new session, as selenium takes them; apart, since it loads selenium."""

from typing import Any

from selenium.webdriver.common.options import BaseOptions


class AskedFor(BaseOptions):
    """Just what is asked for, and nothing that selenium would look for or fetch."""

    def __init__(self, capabilities: dict[str, Any]) -> None:
        super().__init__()
        self._asked = capabilities

    def to_capabilities(self) -> dict[str, Any]:
        """The capabilities (WebDriver §7)."""
        return self._asked

    @property
    def default_capabilities(self) -> dict[str, Any]:
        """None."""
        return {}
