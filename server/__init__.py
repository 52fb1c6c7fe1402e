"""The web application around the core: records in, answers out."""
