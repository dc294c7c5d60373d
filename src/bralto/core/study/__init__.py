"""What a study is: its pictures, marks and frames."""
