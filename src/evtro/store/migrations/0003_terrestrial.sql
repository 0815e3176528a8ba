-- Terrestrial reception: ways over terrain, antennas as data, trials on site, scans, the cable
-- company's line. A transmitter's loss of zero meant free space; from here on it is forecast.

ALTER TABLE site ADD COLUMN surroundings TEXT NOT NULL DEFAULT 'open';
ALTER TABLE site ADD COLUMN clutter_db REAL;
ALTER TABLE site ADD COLUMN mobile_m REAL;
ALTER TABLE site ADD COLUMN mobile_bearing_deg REAL;
ALTER TABLE site ADD COLUMN boundary_m REAL;
ALTER TABLE site ADD COLUMN consent TEXT NOT NULL DEFAULT 'unasked';
ALTER TABLE site ADD COLUMN consent_note TEXT NOT NULL DEFAULT '';
ALTER TABLE target ADD COLUMN own_loss_db REAL;
UPDATE target SET own_loss_db = extra_loss_db WHERE extra_loss_db <> 0;
ALTER TABLE target DROP COLUMN extra_loss_db;
ALTER TABLE target ADD COLUMN pattern TEXT NOT NULL DEFAULT '[]';
ALTER TABLE carrier ADD COLUMN label TEXT NOT NULL DEFAULT '';
ALTER TABLE carrier ADD COLUMN services TEXT NOT NULL DEFAULT '[]';
ALTER TABLE carrier ADD COLUMN network TEXT NOT NULL DEFAULT '';
ALTER TABLE antenna ADD COLUMN gain_table TEXT NOT NULL DEFAULT '[]';
ALTER TABLE antenna ADD COLUMN model TEXT NOT NULL DEFAULT '';
ALTER TABLE antenna ADD COLUMN low_mhz REAL NOT NULL DEFAULT 30.0;
ALTER TABLE antenna ADD COLUMN high_mhz REAL NOT NULL DEFAULT 3000.0;
ALTER TABLE antenna ADD COLUMN beamwidth_deg REAL;
ALTER TABLE antenna ADD COLUMN front_back_db REAL NOT NULL DEFAULT 20.0;
ALTER TABLE antenna ADD COLUMN length_m REAL NOT NULL DEFAULT 1.0;
ALTER TABLE antenna ADD COLUMN heading_deg REAL;
ALTER TABLE antenna ADD COLUMN elements TEXT NOT NULL DEFAULT 'auto';
ALTER TABLE antenna ADD COLUMN rotator INTEGER NOT NULL DEFAULT 0;
ALTER TABLE antenna ADD COLUMN standing TEXT NOT NULL DEFAULT 'outdoors';
ALTER TABLE antenna ADD COLUMN covering TEXT NOT NULL DEFAULT '';
ALTER TABLE antenna ADD COLUMN entry_loss_db REAL;
ALTER TABLE antenna ADD COLUMN above_ground_m REAL;
ALTER TABLE antenna ADD COLUMN hold TEXT;

CREATE TABLE relief (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  source TEXT NOT NULL,
  from_latitude_deg REAL NOT NULL,
  from_longitude_deg REAL NOT NULL,
  to_latitude_deg REAL NOT NULL,
  to_longitude_deg REAL NOT NULL,
  length_km REAL NOT NULL,
  heights_m TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE hold (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  place TEXT NOT NULL,
  above_ground_m REAL,
  heading_deg REAL,
  tilt_deg REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE heard (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  hold TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, hold) REFERENCES hold (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE scan (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  outlet TEXT NOT NULL,
  at TEXT NOT NULL,
  tuner TEXT NOT NULL,
  found TEXT NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE company (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  plan TEXT NOT NULL,
  low_mhz REAL NOT NULL,
  high_mhz REAL NOT NULL,
  low_dbuv REAL,
  high_dbuv REAL,
  return_noise_dbuv REAL,
  watched_s REAL,
  unplugged INTEGER NOT NULL,
  lines_known INTEGER NOT NULL,
  filter_fitted INTEGER NOT NULL,
  note TEXT NOT NULL
) STRICT;

INSERT INTO company (job, plan, low_mhz, high_mhz, low_dbuv, high_dbuv, return_noise_dbuv, watched_s, unplugged, lines_known, filter_fitted, note)
SELECT id, 'none', 114.0, 802.0, NULL, NULL, NULL, NULL, 0, 0, 0, '' FROM job;

-- Transmitters known to this installer, for every job.
CREATE TABLE transmitter (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  latitude_deg REAL NOT NULL,
  longitude_deg REAL NOT NULL,
  height_m REAL NOT NULL,
  pattern TEXT NOT NULL,
  carriers TEXT NOT NULL
) STRICT;

-- Elevation tiles at hand: where the file lies and what it covers.
CREATE TABLE tile (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  path TEXT NOT NULL UNIQUE,
  format TEXT NOT NULL,
  west REAL NOT NULL,
  south REAL NOT NULL,
  east REAL NOT NULL,
  north REAL NOT NULL,
  step_m REAL NOT NULL
) STRICT;
