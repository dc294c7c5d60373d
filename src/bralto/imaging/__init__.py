"""Pictures: load, turn upright, strip, reduce."""
