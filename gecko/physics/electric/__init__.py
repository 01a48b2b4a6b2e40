"""Bank, path, motor constants, operating point, and the resistive nodal solver."""
