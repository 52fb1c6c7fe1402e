"""Setting machines up and changing them: parts, figures, rounds, level, status."""
