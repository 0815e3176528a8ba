-- What is seen of one thing at a step: a fastener loose, snug or tight, a line of the kit there or damaged. A
-- J-pole has bolts in rows, guys have anchors, electrodes their kind; a conductor may go on from another. Who works
-- alone is looked for when no word comes; what a phone keeps back is known on the others.

ALTER TABLE mast ADD COLUMN rows_apart_m REAL NOT NULL DEFAULT 0.2;
ALTER TABLE mast ADD COLUMN bolt_torque_nm REAL;
ALTER TABLE mast ADD COLUMN guy_base TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE mast ADD COLUMN guy_anchor_n REAL;
ALTER TABLE mast ADD COLUMN behind TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE earth ADD COLUMN electrode_kind TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE earth ADD COLUMN electrode_m REAL;
ALTER TABLE earth ADD COLUMN electrode_count INTEGER NOT NULL DEFAULT 1;
ALTER TABLE earth ADD COLUMN soil_ohm_m REAL;
ALTER TABLE dish ADD COLUMN variant TEXT NOT NULL DEFAULT '';
ALTER TABLE dish ADD COLUMN lock_torque_nm REAL;
ALTER TABLE part ADD COLUMN variant TEXT NOT NULL DEFAULT '';
ALTER TABLE link ADD COLUMN behind TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE mark ADD COLUMN unit TEXT NOT NULL DEFAULT '';
ALTER TABLE mark ADD COLUMN minutes REAL;
ALTER TABLE photo ADD COLUMN latitude_deg REAL;
ALTER TABLE photo ADD COLUMN longitude_deg REAL;

CREATE TABLE seen (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  at TEXT NOT NULL,
  step TEXT NOT NULL,
  thing TEXT NOT NULL,
  state TEXT NOT NULL,
  torque_nm REAL,
  note TEXT NOT NULL,
  seen_by TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE conductor_in_line (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  role TEXT NOT NULL,
  material TEXT NOT NULL,
  size_mm2 REAL NOT NULL,
  length_m REAL NOT NULL,
  connected INTEGER NOT NULL,
  part TEXT,
  after TEXT,
  begins TEXT NOT NULL DEFAULT '',
  ends TEXT NOT NULL DEFAULT '',
  bends INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, after) REFERENCES conductor_in_line (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO conductor_in_line (job, id, seq, role, material, size_mm2, length_m, connected, part)
  SELECT job, id, seq, role, material, size_mm2, length_m, connected, part FROM conductor;
DROP TABLE conductor;
ALTER TABLE conductor_in_line RENAME TO conductor;

-- Who is alone at a job, and by when a word is due [seconds since 1970].
CREATE TABLE alone (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  who TEXT NOT NULL,
  call TEXT NOT NULL,
  every_min INTEGER NOT NULL,
  since REAL NOT NULL,
  due REAL NOT NULL
) STRICT;

-- What a device keeps back because the program did not take it yet, by the key that it is sent with.
CREATE TABLE held_back (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  key TEXT NOT NULL,
  step TEXT NOT NULL,
  who TEXT NOT NULL,
  at REAL NOT NULL,
  code TEXT NOT NULL,
  PRIMARY KEY (job, key)
) STRICT;
