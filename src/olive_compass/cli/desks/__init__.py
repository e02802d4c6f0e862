"""``desk``: devices, what holds for this seat, keys of the system, what older versions wrote."""
