"""The websites somebody looks after."""
