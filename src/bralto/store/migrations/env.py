"""Alembic's entry: runs on the connection that `store.schema` hands over."""

from alembic import context

from bralto.store.tables import metadata

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=metadata,
    render_as_batch=True,
)
with context.begin_transaction():
    context.run_migrations()
