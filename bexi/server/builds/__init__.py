"""Built icon sets, never changed after."""
