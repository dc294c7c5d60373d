"""The whole drawing at once: best fit, affine reading, part scales, typical miss."""
