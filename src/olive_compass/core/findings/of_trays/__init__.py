"""Findings on trays and vias: looked for where an application has some. One module each, as beside."""
