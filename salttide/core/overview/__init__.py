"""Everything together: a system's state, what comes up, what to do next, and the hand-over to a carer."""
