"""The model stand: the figure as a mesh, its picture by ray casting, its answer key."""
