"""The science: pure functions over immutable values; no interface, files, pictures or database."""
