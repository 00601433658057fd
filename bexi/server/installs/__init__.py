"""What was put on the hosts, and taken back."""
