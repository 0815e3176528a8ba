"""Routes, one module for each station or subject: read the request, call the core, answer."""
