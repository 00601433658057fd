"""A simulated web host that ships with Bexi. It imports nothing of the application."""
