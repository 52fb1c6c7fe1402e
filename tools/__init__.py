"""Scripts that set up, check and picture the project."""
