"""The server: accounts, garages, builds, logbook, and the door to the core."""
