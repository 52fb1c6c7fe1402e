"""The core of Yperon: the rules of looking after vacuum cleaners, and their arithmetic.

Plain Python values and functions. Nothing here reads a clock, a database or a network; the only file access is
reading the care book (`care.book`).
"""
