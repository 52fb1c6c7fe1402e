"""The demo household "Quillgate 9": made up, and lived through the same services that the screens call."""
