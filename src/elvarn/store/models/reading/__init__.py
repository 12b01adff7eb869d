"""Readings: every kind is a measured figure, append-only."""
