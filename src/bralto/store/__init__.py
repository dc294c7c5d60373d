"""The library on disk: studies, marks, pictures. Every change is one transaction."""
