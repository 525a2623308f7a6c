"""What will be done to the water: changes, batches, corrections, what-if, and the containers that dose."""
