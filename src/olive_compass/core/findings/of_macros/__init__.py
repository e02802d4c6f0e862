"""Findings on macros: looked for where an application has some. One module each, as beside."""
