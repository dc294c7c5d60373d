"""The shelf: studies as pairs of pictures."""
