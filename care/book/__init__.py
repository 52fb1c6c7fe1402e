"""The care book: what each kind of machine needs, as TOML beside this file, and its loader."""

from care.book.loader import load_archetype, load_book

__all__ = ["load_archetype", "load_book"]
