"""Speed, each figure beside a reference in the same run."""
