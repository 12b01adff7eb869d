"""The shop: people, benches, dynos, settings."""
