"""Codes to print that open the page of a machine or a part."""
