-- Lines drawn through a picture and outlines of its shadows, in the words of the study file.
ALTER TABLE picture ADD COLUMN lines TEXT NOT NULL DEFAULT '{}';
