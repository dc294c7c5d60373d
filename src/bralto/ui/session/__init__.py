"""What is looked at and asked for, as frozen values and pure transitions; knows no Qt."""
