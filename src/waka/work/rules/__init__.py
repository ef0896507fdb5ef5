"""Filing by rules: rulebooks kept, tried, and run; what came of them, and why."""
