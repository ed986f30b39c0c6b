"""Photographs at the camera: what a take left behind, and what the taking camera saw."""
