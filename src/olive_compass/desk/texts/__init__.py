"""Text that people and other programs wrote: CSV, JSON and TOML, and edits of lines."""
