"""What is drawn, printed or written to a file that a person named."""
