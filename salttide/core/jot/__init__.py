"""One line of the keeper's plain words: sums, and what was measured and done."""
