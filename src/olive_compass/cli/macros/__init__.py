"""What the verbs of ``macro`` do, and what ``try`` shares with them."""
