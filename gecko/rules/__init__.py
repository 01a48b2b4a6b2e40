"""The checks: one module per station, one small function per rule, each registered under a stable id."""
