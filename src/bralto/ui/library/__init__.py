"""The library itself: where it lies, its backups, and what to do when it cannot be had."""
