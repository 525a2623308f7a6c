"""The science of seawater: one formula, one function, one source. Nothing here knows of a keeper's tank."""
