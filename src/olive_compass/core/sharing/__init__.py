"""Sharing keys: purposes, key sets, comparing, merging, upgrading, work lists."""
