"""Scenes of `make survive`: each does rounds of one kind and tallies what went wrong."""
