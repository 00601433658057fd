"""The icon lines in the head of a page: written, found, edited byte-exactly."""
