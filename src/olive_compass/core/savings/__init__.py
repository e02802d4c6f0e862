"""The seconds that keys save, the best new keys, and the keys to practise."""
