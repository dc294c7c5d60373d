"""Pictures that come in: dropped, pasted, or saved in a watched folder."""
