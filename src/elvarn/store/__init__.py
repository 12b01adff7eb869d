"""Keeping: SQLAlchemy models, queries and migrations; PostgreSQL only."""
