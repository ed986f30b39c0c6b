"""What layers look like: the shelf of outlines, outlines drawn elsewhere, parts and their colours."""
