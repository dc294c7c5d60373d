"""The statistics of many studies."""
