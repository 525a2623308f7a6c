"""What was entered, what it did to the water, and what each result says."""
