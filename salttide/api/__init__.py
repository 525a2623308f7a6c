"""The HTTP API: parse the request, call the core and the store, shape the answer."""
