"""Picture boards: views of a picture, gestures, marks and what is drawn over them."""
