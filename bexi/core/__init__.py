"""The rules and computation of the job: no interface, no sockets, no files but those handed in."""
