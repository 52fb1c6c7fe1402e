"""What devices say: whether it can be, which part a scale carries, what falls over weeks. Why: docs/why/devices.md."""
