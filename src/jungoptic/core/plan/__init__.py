"""Finding settings: the solver, and how exactly each thing must be placed."""
