"""Station Aim: where to point, how to find and peak it, and the evidence that it is right."""
