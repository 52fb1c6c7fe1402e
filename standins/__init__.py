"""The outside world in small: made-up devices and a shop that really run, each with laws of its own."""
