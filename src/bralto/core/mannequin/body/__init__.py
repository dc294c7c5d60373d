"""The body: joints with their limits, builds, faces, forms, and where they lie in a pose."""
