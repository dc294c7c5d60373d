"""Poses: named and by chance, with planted feet, and pulled by a hand."""
