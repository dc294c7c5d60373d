"""Many studies: what each gives the record, habits, trends, and what follows from them."""
