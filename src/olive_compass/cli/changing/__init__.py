"""What all that writes has in common: the runner, its questions and sentences, saving, undo."""
