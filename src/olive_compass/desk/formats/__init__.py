"""The files of a desk, a module each: how it is read, and beside it how it is written."""
