"""Port work: cutting metal."""
