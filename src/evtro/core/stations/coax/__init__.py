"""Station Coax: levels and quality at every outlet, judged. The physics of the network is in
`core/network`. Order of the packages: sources, levels, checks, verdict, fixes, views and design.
"""
