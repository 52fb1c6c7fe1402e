"""What people note: words, photos, reminders, and what they measured or felt."""
