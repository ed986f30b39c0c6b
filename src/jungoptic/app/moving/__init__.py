"""A production moved: all of it out as one open file, and in again, here or on another machine."""
