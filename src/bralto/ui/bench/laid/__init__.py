"""Where things lie on the bench: boards, list and edges; how boards keep together."""
