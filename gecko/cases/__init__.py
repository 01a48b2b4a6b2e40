"""Solved machines in the exchange format of independent solutions: read, solve, compare."""
