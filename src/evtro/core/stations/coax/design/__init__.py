"""The designer: from what is kept and where outlets are to a complete network, proven to be the best of
the layouts that it lists.
"""
