"""Everything kept in one file, and put back from it."""
