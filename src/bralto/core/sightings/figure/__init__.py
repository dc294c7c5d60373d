"""The figure that sightings imply."""
