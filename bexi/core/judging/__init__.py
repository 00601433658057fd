"""What a person will see of an icon at the size at which it is seen, and what would be better."""
