-- What is done says by whom, or why it was left; photographs of steps lie beside the data by their hash. A day
-- of several jobs has a plan of its own.

ALTER TABLE mark ADD COLUMN done_by TEXT NOT NULL DEFAULT '';
ALTER TABLE mark ADD COLUMN left_why TEXT NOT NULL DEFAULT '';

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
