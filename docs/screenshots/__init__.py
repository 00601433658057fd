"""Pictures of each view, made from the demo."""
