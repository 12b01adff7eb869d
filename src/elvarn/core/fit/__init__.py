"""Fitting: threads, bolts, their order, seals and clearance. Pure, in SI."""
