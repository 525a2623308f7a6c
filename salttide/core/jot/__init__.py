"""The jot line: sums, and records of what was measured and done, in plain words."""
