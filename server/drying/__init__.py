"""Wet parts: where they hang, what they weigh, when they are dry; and whether a part may get wet at all."""
