"""Tables and pictures of the station, computed when they are requested. They judge nothing."""
