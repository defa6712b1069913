"""A small stand-in for a climate service outside Lorica: invented places, answered over HTTP on loopback."""
