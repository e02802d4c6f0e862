"""Findings on trays and proxies: looked for where an application has some. One module each, as beside."""
