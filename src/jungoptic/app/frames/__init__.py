"""Frame by frame: exposure sheets, every exposure that was taken, and what was said of it."""
