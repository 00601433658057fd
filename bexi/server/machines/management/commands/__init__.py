"""Commands for the machine Bexi runs on."""
