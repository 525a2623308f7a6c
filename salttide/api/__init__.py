"""FastAPI: parse, store, core, answer."""
