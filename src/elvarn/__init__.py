"""Elvarn: flow bench and dyno work for intake porting."""

__version__ = "0.1.0"
