"""Devices that report by themselves: who may post what, what is taken in, what is held apart, and live news."""
