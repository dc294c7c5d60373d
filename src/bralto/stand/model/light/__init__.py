"""Light on the model: what a ray sees, shade, the floor, what keeps the sky off."""
