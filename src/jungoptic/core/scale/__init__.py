"""Models and time."""
