"""Breaking a shot down: recipes, what they cost, what can hurt somebody, what can be used again."""
