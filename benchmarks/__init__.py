"""What `make bench` measures. Each figure is a median; compare figures of one run only, machines are noisy."""
