"""Files on disk, opened and written with care; knows nothing of drawings."""
