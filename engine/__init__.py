"""Lorica's computation: structure, actions, analysis, verification, sizing. Knows no server and no screen.

Units inside the engine are newton, metre, radian; the document (engine/document.py) may be written in others.
"""
