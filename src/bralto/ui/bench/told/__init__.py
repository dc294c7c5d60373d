"""What the bench says of a drawing."""
