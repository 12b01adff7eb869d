"""Statistics that no step of the work owns."""
