"""Bexi on several machines: real Redis and PostgreSQL, a stand-in for S3, processes that share no disk."""
