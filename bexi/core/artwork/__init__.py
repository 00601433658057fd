"""From bytes to artwork: detection, decoding, vector rendering, measured facts."""
