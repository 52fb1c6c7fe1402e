"""The whole household in one answer, and a machine on its page."""
