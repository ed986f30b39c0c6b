"""The set as the lens sees it and as it stands: projection and drawings in numbers."""
