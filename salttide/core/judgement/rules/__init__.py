"""The rules of judgement by subject: each a small function from a situation to its findings, listed in `rules.toml`."""
