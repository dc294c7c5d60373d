"""Alembic migrations, oldest first."""
