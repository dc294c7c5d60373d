"""A measuring session: its passes in the practitioners' order, what is noted, what is checked."""
