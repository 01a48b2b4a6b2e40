"""Each rule at its edge, by the station it is about."""
