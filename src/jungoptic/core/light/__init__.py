"""Exposure and colour of light."""
