"""One's own kit measured: what was said and filmed for it, what came of it, and what it changes."""
