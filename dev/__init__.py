"""What the developers run, and no part of the product."""
