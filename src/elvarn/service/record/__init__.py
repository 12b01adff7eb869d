"""What is on record, as it is meant: read, never written here, and told by no screen."""
