"""The dyno: curves against stock."""
