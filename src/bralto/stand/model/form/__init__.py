"""The model as a surface: its mesh, rays against it, plaster solids."""
