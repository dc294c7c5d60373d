"""The stand-ins: a model that poses, a learner who draws it with known faults, demo data."""
