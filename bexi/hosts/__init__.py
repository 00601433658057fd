"""Where the files of a site live."""
