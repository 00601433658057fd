"""Icons whose word a person gave, looking at each at true size and enlarged."""
