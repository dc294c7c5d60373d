BEGIN TRANSACTION;
CREATE TABLE alembic_version (
	version_num VARCHAR(32) NOT NULL, 
	CONSTRAINT alembic_version_pkc PRIMARY KEY (version_num)
);
INSERT INTO "alembic_version" VALUES('0002');
CREATE TABLE mark (
	picture_id INTEGER NOT NULL, 
	"key" VARCHAR NOT NULL, 
	x FLOAT NOT NULL, 
	y FLOAT NOT NULL, 
	visibility VARCHAR NOT NULL, 
	spread FLOAT NOT NULL, 
	extra JSON NOT NULL, 
	CONSTRAINT pk_mark PRIMARY KEY (picture_id, "key"), 
	CONSTRAINT fk_mark_picture_id FOREIGN KEY(picture_id) REFERENCES picture (id) ON DELETE CASCADE
);
INSERT INTO "mark" VALUES(1,'crown',200.0,100.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'chin',200.0,200.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'pit_of_neck',200.0,240.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'crotch',210.0,500.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'shoulder_r',100.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'shoulder_l',300.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'hip_point_r',150.0,440.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'hip_point_l',250.0,400.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'knee_r',170.0,680.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'knee_l',260.0,660.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'heel_r',180.0,850.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(1,'heel_l',280.0,830.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'crown',400.0,100.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'chin',400.0,320.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'pit_of_neck',400.0,400.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'crotch',400.0,920.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'shoulder_r',180.0,430.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'shoulder_l',620.0,408.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'hip_point_r',300.0,800.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'hip_point_l',500.0,760.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'knee_r',340.0,1240.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'knee_l',500.0,1240.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'heel_r',360.0,1640.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(2,'heel_l',540.0,1600.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'crown',250.0,50.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'hairline',250.0,100.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'brow_mid',250.0,200.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'nose_base',250.0,300.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'mouth_mid',250.0,340.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'chin',250.0,450.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'eye_outer_r',175.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'eye_inner_r',225.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'eye_inner_l',275.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'eye_outer_l',325.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'face_edge_r',125.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(3,'face_edge_l',375.0,250.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'crown',450.0,50.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'hairline',450.0,150.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'brow_mid',450.0,290.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'nose_base',450.0,500.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'mouth_mid',450.0,620.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'chin',450.0,850.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'eye_outer_r',280.0,410.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'eye_inner_r',400.0,410.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'eye_inner_l',500.0,410.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'eye_outer_l',620.0,410.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'face_edge_r',200.0,410.0,'seen',1.5,'{}');
INSERT INTO "mark" VALUES(4,'face_edge_l',700.0,410.0,'seen',1.5,'{}');
CREATE TABLE picture (
	id INTEGER NOT NULL, 
	file VARCHAR NOT NULL, 
	media VARCHAR, 
	width INTEGER NOT NULL, 
	height INTEGER NOT NULL, 
	plumb_deg FLOAT NOT NULL, 
	sheet JSON, 
	polygons JSON NOT NULL, 
	permission VARCHAR, 
	extra JSON NOT NULL, crop JSON, focal_35mm FLOAT, 
	CONSTRAINT pk_picture PRIMARY KEY (id)
);
INSERT INTO "picture" VALUES(1,'a.png','ab/one.png',600,1000,0.0,'null','{}',NULL,'{}','null',NULL);
INSERT INTO "picture" VALUES(2,'b.png','cd/two.jpg',1200,2000,0.0,'{"corners": [[1.0, 2.0], [50.0, 2.0], [50.0, 60.0], [1.0, 60.0]], "size_mm": [297.0, 420.0], "spread": 0.4, "extra": {}}','{"gap": [[1.0, 1.0], [2.0, 1.0], [2.0, 2.0]]}',NULL,'{}','[1.0, 2.0, 30.0, 40.0]',26.0);
INSERT INTO "picture" VALUES(3,'a.png',NULL,500,500,0.0,'null','{}',NULL,'{}','null',NULL);
INSERT INTO "picture" VALUES(4,'b.png',NULL,900,900,0.0,'null','{}',NULL,'{}','null',NULL);
CREATE TABLE state (
	id INTEGER NOT NULL, 
	study_id VARCHAR NOT NULL, 
	number INTEGER NOT NULL, 
	name VARCHAR NOT NULL, 
	taken VARCHAR, 
	picture_id INTEGER NOT NULL, 
	extra JSON NOT NULL, 
	CONSTRAINT pk_state PRIMARY KEY (id), 
	CONSTRAINT uq_state_study_id UNIQUE (study_id, name), 
	CONSTRAINT fk_state_study_id FOREIGN KEY(study_id) REFERENCES study (id) ON DELETE CASCADE, 
	CONSTRAINT fk_state_picture_id FOREIGN KEY(picture_id) REFERENCES picture (id)
);
INSERT INTO "state" VALUES(1,'d3b23c4d',0,'first',NULL,2,'{}');
INSERT INTO "state" VALUES(2,'61b3176e',0,'first',NULL,4,'{}');
CREATE TABLE study (
	id VARCHAR NOT NULL, 
	title VARCHAR NOT NULL, 
	"view" VARCHAR NOT NULL, 
	kind VARCHAR NOT NULL, 
	school VARCHAR NOT NULL, 
	grade VARCHAR NOT NULL, 
	reference_id INTEGER, 
	made VARCHAR NOT NULL, 
	extra JSON NOT NULL, 
	CONSTRAINT pk_study PRIMARY KEY (id), 
	CONSTRAINT fk_study_reference_id FOREIGN KEY(reference_id) REFERENCES picture (id)
);
INSERT INTO "study" VALUES('d3b23c4d','Pencil and paper, a figure','figure-front','observed','head','developing',1,'2026-05-02T18:20:00Z','{"scale": {"marks": [], "extra": {}}, "anchors": [["rope_end", "end of the rope", {}]], "intents": [["span.head", 1.1, {}]], "guesses": [["tilt.shoulders", -4.0, "2026-05-02T18:05:00Z", {}]], "canon": null, "unknown": {"bench": {"line": ["chin"]}}}');
INSERT INTO "study" VALUES('61b3176e','Pencil and paper, a head','head-front','observed','envelope','developing',3,'2026-06-03T10:00:00Z','{"scale": {"marks": [], "extra": {}}, "anchors": [], "intents": [], "guesses": [], "canon": null, "unknown": {}}');
CREATE INDEX ix_study_made ON study (made);
CREATE INDEX ix_state_study_id ON state (study_id);
COMMIT;
