"""Canons: averages that answer 'more or less than usual?', never 'right or wrong'."""
