"""Benchmarks and simulations; each is a command of the Makefile."""
