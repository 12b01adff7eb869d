"""The board and a job's head: what the steps of the work sum up to."""
