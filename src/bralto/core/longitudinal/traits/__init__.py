"""Traits of a learner and the habits that they make."""
