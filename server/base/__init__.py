"""What every room stands on: the one clock, refusals and how HTTP tells them, bounds, tables to take away, the disk."""
