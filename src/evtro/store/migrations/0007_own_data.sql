-- A job carries the data of every part, cable, antenna and limit that it uses. What was read on site
-- says when; undo leaves it alone.

CREATE TABLE part_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,              -- by which rows use it
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,             -- JSON
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE cable_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE array_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE limit_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

ALTER TABLE sample ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE trial ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE lock ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE hold ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE heard ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN at TEXT NOT NULL DEFAULT '';
ALTER TABLE mark RENAME COLUMN done_at TO at;
UPDATE change SET diff = renewed(diff);
ALTER TABLE change ADD COLUMN planned INTEGER NOT NULL DEFAULT 1;  -- there is something for undo
UPDATE change SET planned = planned(diff);
