"""Reduction of measured runs."""
