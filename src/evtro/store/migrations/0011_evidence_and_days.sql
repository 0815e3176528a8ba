-- An earthing conductor may begin at one part; a roof has an edge, an electrode its resistance, a house its own
-- lightning protection. What is done says by whom, or why it was left; photographs of steps lie beside the data by their hash. A day
-- of several jobs has a plan of its own.

ALTER TABLE mark ADD COLUMN done_by TEXT NOT NULL DEFAULT '';
ALTER TABLE mark ADD COLUMN left_why TEXT NOT NULL DEFAULT '';

ALTER TABLE mast ADD COLUMN guys INTEGER NOT NULL DEFAULT 0;
ALTER TABLE mast ADD COLUMN guy_m REAL NOT NULL DEFAULT 0.0;
ALTER TABLE mast ADD COLUMN guy_out_m REAL NOT NULL DEFAULT 2.0;
ALTER TABLE mast ADD COLUMN guy_mm REAL NOT NULL DEFAULT 4.0;
ALTER TABLE mast ADD COLUMN ice_mm REAL NOT NULL DEFAULT 0.0;
ALTER TABLE site ADD COLUMN roof_edge_m REAL;
ALTER TABLE earth ADD COLUMN electrode TEXT NOT NULL DEFAULT 'own';
ALTER TABLE earth ADD COLUMN electrode_ohm REAL;
ALTER TABLE earth ADD COLUMN lps TEXT NOT NULL DEFAULT 'none';
ALTER TABLE earth ADD COLUMN lps_apart_m REAL;

CREATE TABLE conductor_of_parts (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  role TEXT NOT NULL,
  material TEXT NOT NULL,
  size_mm2 REAL NOT NULL,
  length_m REAL NOT NULL,
  connected INTEGER NOT NULL,
  part TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO conductor_of_parts SELECT job, id, seq, role, material, size_mm2, length_m, connected, NULL FROM conductor;
DROP TABLE conductor;
ALTER TABLE conductor_of_parts RENAME TO conductor;

CREATE TABLE photo (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  at TEXT NOT NULL,
  step TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  width_px INTEGER NOT NULL,
  height_px INTEGER NOT NULL,
  taken_by TEXT NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE INDEX photo_by_hash ON photo (sha256);

CREATE TABLE day (
  date TEXT PRIMARY KEY,
  revision INTEGER NOT NULL,
  plan TEXT NOT NULL
) STRICT;
