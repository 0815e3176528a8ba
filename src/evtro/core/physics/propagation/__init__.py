"""What happens between transmitter and antenna: terrain, clutter, air, rain."""
