"""Django management commands of the demo."""
