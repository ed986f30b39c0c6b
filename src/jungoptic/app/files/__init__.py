"""Files that people brought or the application made: kept in a storage, known by what they contain."""
