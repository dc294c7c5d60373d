"""Practice in sighting: a person of true size in the room, at a stated distance."""
