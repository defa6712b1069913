"""What is said of a building, in SI, as values with every name resolved: screens, the result file and the dossier read it, and add their
units and words."""
