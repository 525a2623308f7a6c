"""Planning: changes, batches, corrections, what-if, and dosing containers."""
