"""The designer: from what is kept and where outlets are to a complete run, proven to be the best of the
trees that it lists."""
