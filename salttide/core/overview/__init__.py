"""Overview: a system's state, what is coming up, what to do next, and the hand-over to a carer."""
