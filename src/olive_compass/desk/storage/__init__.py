"""How files are written so that nothing is lost: saving, the history, the cache, what lies outside."""
