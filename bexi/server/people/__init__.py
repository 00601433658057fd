"""Who may do what: accounts, roles, tokens for scripts."""
