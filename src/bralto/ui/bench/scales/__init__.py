"""Ladder and rails: the figures between and below the boards, at true scale."""
