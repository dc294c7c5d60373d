"""Light and shadow as big shapes: where drawn shadows go too far and where they fall short."""
