"""TV antennas: heading, path of each transmitter, choice of antenna, trial on site."""
