"""What the production owns: cameras and their recording modes, lenses, lamps, support, and the steps they
have.
"""
