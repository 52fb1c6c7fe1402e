"""What was done and found at parts, the filter log, what lately helped."""
