"""Problems of the network, one module for each subject. What fixes them is in `fixes`."""
