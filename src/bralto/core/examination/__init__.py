"""All that is known of one study."""
