"""Programmes: weeks of work against a trouble, in phases, and the routine put back after."""
