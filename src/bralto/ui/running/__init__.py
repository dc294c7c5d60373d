"""The window as a running process: its slow work, its faults, its end, another start of it."""
