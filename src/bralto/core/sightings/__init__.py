"""A reference without a picture: what was sighted by eye and pencil, and the figure it implies."""
