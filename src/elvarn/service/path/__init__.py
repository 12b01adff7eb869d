"""The air path: understood and chosen."""
