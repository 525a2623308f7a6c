"""One system at one moment, the rules that are heard on it, when to test again, and a system's cycling."""
