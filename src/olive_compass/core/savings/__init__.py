"""What a key is worth, which would save most, and what to practise."""
