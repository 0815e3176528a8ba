-- A job carries the data of every part, cable, antenna and limit that it uses.

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
