"""Figures in words."""
