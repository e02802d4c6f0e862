"""What the commands of the group ``share`` do."""
