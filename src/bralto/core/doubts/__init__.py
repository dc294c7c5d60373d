"""Whether the marks can be true: cheap explanations that are tried before any fault is sought."""
