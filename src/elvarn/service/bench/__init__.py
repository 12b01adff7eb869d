"""The bench: figures that can be trusted, before and after."""
