"""The stand-ins: a puppet that poses, a learner who draws it with known faults, demo data."""
