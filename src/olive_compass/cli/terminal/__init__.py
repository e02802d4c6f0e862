"""What stands between a command and the terminal: layout, tables, progress, keys that are pressed."""
