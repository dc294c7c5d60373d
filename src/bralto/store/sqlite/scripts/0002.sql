-- What of a picture is looked at, and the lens that took it.
ALTER TABLE picture ADD COLUMN crop TEXT;
ALTER TABLE picture ADD COLUMN focal_35mm REAL;
