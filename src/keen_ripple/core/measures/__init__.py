"""What is told of a motion: outlines on the piece, the seam of a loop, ways, readings of curves and springs."""
