"""The made-up shop: people, engines and parts that exist nowhere, figures from a seeded generator."""
