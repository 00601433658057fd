"""Drafts: what is on the bench for each site."""
