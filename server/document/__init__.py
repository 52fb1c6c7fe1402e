"""A household as one open document: taken out, brought in, and its tables as files of their own."""
