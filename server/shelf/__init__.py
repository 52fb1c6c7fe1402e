"""Spare parts of the household: kinds, stock, price lists, orders, and what to buy."""
