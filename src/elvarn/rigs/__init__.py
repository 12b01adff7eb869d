"""Simulated instruments that ship with the product, and the lines they speak."""
