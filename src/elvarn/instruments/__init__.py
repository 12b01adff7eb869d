"""Lines to real instruments."""
