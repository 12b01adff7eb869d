"""What belongs to a job and to no step of the work."""
