"""The machine: what is set up, the private database cluster, the command line."""
