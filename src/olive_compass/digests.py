"""The SHA-256 of bytes, without loading the whole library of digests for it."""

try:
    # The lean module that ``hashlib`` itself falls back on: its name has changed between versions.
    from _sha2 import sha256  # type: ignore[import-not-found]
except ImportError:
    try:
        from _sha256 import sha256  # type: ignore[import-not-found]
    except ImportError:
        from hashlib import sha256


def digest_of(data: bytes) -> str:
    """The digest as hexadecimal digits."""
    return str(sha256(data).hexdigest())
