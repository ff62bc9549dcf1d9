"""How well and how fast pictures of known shapes are traced."""
