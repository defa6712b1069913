"""A stand-in for an office that details steel: it receives a model, does what such offices do to it, and gives it back. Invented."""
