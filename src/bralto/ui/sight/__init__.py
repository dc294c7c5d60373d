"""From life: the next sighting asked in big letters, answered by one key; the figure it implies."""
