"""What the tool finds out: lines, alignments, fractions, questions, balance, life."""
