"""``replace(record, field=value)``: a copy of a record with other values in some fields.

``msgspec`` gives no types to its ``replace``. A type checker reads ``copy.replace`` here, which
knows the fields of the record, and the names and types that they take.
"""

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from copy import replace
else:
    from msgspec.structs import replace

__all__ = ["replace"]
