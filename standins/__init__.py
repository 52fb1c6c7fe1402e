"""Small simulated outside world, to try Yperon without it."""
