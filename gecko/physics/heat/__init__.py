"""Heat of motors and of wire."""
