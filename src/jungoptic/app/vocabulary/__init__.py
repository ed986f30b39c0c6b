"""What the house calls things, and the recipes and cautions that a practitioner put beside them."""
