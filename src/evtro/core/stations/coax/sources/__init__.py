"""What antennas, LNBs and company lines feed into the network, wanted and unwanted."""
