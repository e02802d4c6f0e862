"""The meaning of keys, catalogues and schemes: no files, no terminal, no drawing."""
