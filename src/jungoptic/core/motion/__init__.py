"""Movement across the frame."""
