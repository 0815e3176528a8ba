"""The distribution network as a directed network of ports: compiled to arrays and solved for
level, noise, distortion, echo, powering and selection. No limits and no judgement: these are in
`core/stations/coax`.
"""
