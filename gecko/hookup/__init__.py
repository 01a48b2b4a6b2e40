"""The netlist behind the hookup, its steps and readings."""
