"""The installation as a whole: copies of everything, and whether it is well."""
