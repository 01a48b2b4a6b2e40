"""Driving at depth: gears and modes, launch, course, heat, sprockets, what holds it back, riders, setups side by side."""
