"""Values of measures with their exact first-order gradients, kind by kind."""
