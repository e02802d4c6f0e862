"""The simulator: a small pretend application to try schemes and macros on."""
