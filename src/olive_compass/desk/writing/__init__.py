"""The files of a desk as a change leaves them: what an edit, a new version, a plan or a new name writes."""
