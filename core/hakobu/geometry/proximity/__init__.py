"""Distance and neighbour queries on curves: nearest places, candidate pairs, coincident runs."""
