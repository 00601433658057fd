"""Speed and memory, measured against reference libraries in the same run."""
