"""From a hundred deviations to the few moves that take most of them away."""
