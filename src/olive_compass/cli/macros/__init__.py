"""The verbs of ``macro``, and the parts that ``try`` shares with them."""
