"""What asks the eye before figures are shown."""
