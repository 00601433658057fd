"""What a served site tells its visitors about its icons."""
