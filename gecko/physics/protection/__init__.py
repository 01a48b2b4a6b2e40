"""Ampacity, fuse bands, and the fuse-and-wire choice."""
