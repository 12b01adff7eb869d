"""Fit: putting it on."""
