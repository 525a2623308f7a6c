"""What can fail in a system, what happens then in this one, and what protects it."""
