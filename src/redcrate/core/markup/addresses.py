"""Addresses as pages write them: which local file is meant, and what lies on a network.

URL Standard §4.3: an address that does not parse means nothing; it is no error of the program.
"""

from urllib.parse import SplitResult, unquote, urlsplit


def split_address(address: str) -> SplitResult | None:
    """The parts of an address; None if it is none, such as `http://[x/`."""
    try:
        return urlsplit(address.strip())
    except ValueError:
        return None


def local_path(address: str) -> str | None:
    """The path of the local file that an address means, decoded; None for a network or for nothing."""
    parts = split_address(address)
    if parts is None or parts.netloc or parts.scheme not in ("", "file"):
        return None
    path = unquote(parts.path)
    return path if path and "\0" not in path else None


def is_remote(address: str) -> bool:
    """Whether an address lies on a network: nothing of it is loaded."""
    parts = split_address(address)
    if parts is None:
        return "//" in address
    return bool(parts.netloc) and parts.scheme != "file"
