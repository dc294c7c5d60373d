"""Names of the ways to look at a picture; apart from the code, which is slow to load."""

from __future__ import annotations

__all__ = ["LOOKS"]

LOOKS = ("plain", "even light", "squint", "two values", "three values")
"""As it is; uneven light taken away; half-closed eyes; light and dark; light, middle and dark."""
