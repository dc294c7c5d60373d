"""A head as a solid: how it stands in space, and the big forms that it is built up from."""
