"""The trade's rules and computation: pure functions on SI values, importing nothing of the rest."""

METHOD_VERSION = "3"
