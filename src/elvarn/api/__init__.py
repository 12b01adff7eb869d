"""HTTP: thin routers over the use cases."""
