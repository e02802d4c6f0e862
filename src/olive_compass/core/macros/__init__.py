"""Macros: recorded steps, their inputs and questions; cleaning, playing and comparing them."""
