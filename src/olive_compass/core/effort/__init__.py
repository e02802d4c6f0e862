"""What a press costs the hand, and which free key suits a command."""
