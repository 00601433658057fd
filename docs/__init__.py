"""Documentation, and the script that takes its pictures."""
