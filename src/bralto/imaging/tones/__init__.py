"""Light and dark of a picture: how it is looked at, its shapes of shadow, its values."""
