"""Published tables and ship-with parts as CSV, each with its source in its first lines, and their loader."""
