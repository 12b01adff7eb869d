"""The shelf: parts and castings with what was learned of each."""
