"""Troubles: what a keeper sees, recognised by a short key of questions."""
