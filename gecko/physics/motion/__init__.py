"""Forces, top speed, launch, hill, stop and turn."""
