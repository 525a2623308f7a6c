"""Step by step at the tank: the steps, the answers, what they are filled with and what they leave in the record."""
