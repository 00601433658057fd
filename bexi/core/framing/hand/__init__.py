"""Small icons as a hand draws them: stems on whole px."""
