"""The rack: the garage's own parts, what is known of each, and the slots of a setup that hold them."""
