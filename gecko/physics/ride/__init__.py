"""Cruise, laps and run time."""
