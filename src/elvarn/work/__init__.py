"""Work that goes on beside requests."""
