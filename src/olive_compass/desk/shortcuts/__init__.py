"""The shortcuts files of applications: how they are read and written, and what is delivered."""
