"""The one engine that tries changes: candidates, screening, comparison figure by figure, ranking, pairs.

It knows no station: each hands it its judge. What is worth a try stands in the stations.
"""
