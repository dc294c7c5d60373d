"""Where the sheet of paper is in a photo: shown, mended by hand, kept."""
