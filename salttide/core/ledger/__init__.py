"""The ledger: what was entered, what it did to the water, and the verdict on each result."""
