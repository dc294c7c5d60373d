"""The action: the sweep of a pose as one curve, its masses against each other, the run of limbs."""
