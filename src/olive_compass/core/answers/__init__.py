"""Questions that are asked of a desk, a module each: what is looked at goes in, a typed answer comes out."""
