"""The steps of the hookup, by what they are about, and the order they come in."""
