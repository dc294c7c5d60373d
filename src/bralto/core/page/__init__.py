"""The sheet of paper: planned, photographed, measured."""
