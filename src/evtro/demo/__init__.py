"""The invented demo world, built with the verbs that people use."""
