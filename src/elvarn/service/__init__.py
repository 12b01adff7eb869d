"""Use cases, one module a step of the work."""
