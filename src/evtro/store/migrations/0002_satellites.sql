-- Satellites in full: survey that grows, several satellites on a dish, motor, two-way terminals,
-- readings while an axis is turned, tries of a feed, stops of a portable dish.

ALTER TABLE site ADD COLUMN years_ahead INTEGER NOT NULL DEFAULT 5;
ALTER TABLE target ADD COLUMN wanted INTEGER NOT NULL DEFAULT 1;
ALTER TABLE target ADD COLUMN inclination_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE obstruction ADD COLUMN nature TEXT NOT NULL DEFAULT 'fixed';
ALTER TABLE obstruction ADD COLUMN growth_m_year REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN upside_down INTEGER NOT NULL DEFAULT 0;
ALTER TABLE antenna ADD COLUMN scale_zero_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN skew_turns TEXT NOT NULL DEFAULT 'lnb';
ALTER TABLE antenna ADD COLUMN level_reads TEXT NOT NULL DEFAULT '0';
ALTER TABLE antenna ADD COLUMN mounting TEXT NOT NULL DEFAULT 'fixed';
ALTER TABLE antenna ADD COLUMN coarse_first TEXT NOT NULL DEFAULT 'elevation';
ALTER TABLE antenna ADD COLUMN focal_ratio REAL NOT NULL DEFAULT 0.6;
ALTER TABLE antenna ADD COLUMN reflector_height_mm REAL;
ALTER TABLE antenna ADD COLUMN reflector_width_mm REAL;
ALTER TABLE antenna ADD COLUMN reflector_depth_mm REAL;
ALTER TABLE antenna ADD COLUMN lnb_width_mm REAL NOT NULL DEFAULT 60.0;
ALTER TABLE antenna ADD COLUMN lean_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN lean_bearing_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN compass_error_deg REAL NOT NULL DEFAULT 3.0;
ALTER TABLE antenna ADD COLUMN scale_error_deg REAL NOT NULL DEFAULT 0.5;
ALTER TABLE antenna ADD COLUMN deg_per_turn REAL;
ALTER TABLE antenna ADD COLUMN play_turns REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN motor_limit_deg REAL NOT NULL DEFAULT 65.0;
ALTER TABLE antenna ADD COLUMN motor_bend_deg REAL NOT NULL DEFAULT 30.0;
ALTER TABLE antenna ADD COLUMN motor_zero_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN availability_pct REAL NOT NULL DEFAULT 99.7;
ALTER TABLE antenna ADD COLUMN two_way INTEGER NOT NULL DEFAULT 0;
ALTER TABLE antenna ADD COLUMN transmit_w REAL NOT NULL DEFAULT 2.0;
ALTER TABLE antenna ADD COLUMN transmit_mhz REAL NOT NULL DEFAULT 14250.0;
ALTER TABLE part ADD COLUMN target TEXT;

CREATE TABLE spot (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  bearing_deg REAL NOT NULL,
  distance_m REAL NOT NULL,
  mount_height_m REAL NOT NULL,
  cable_m REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE feed (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  target TEXT NOT NULL,
  placed_mm REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE preset (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  name TEXT NOT NULL,
  tilt_deg REAL NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE sample (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  axis TEXT NOT NULL,
  position REAL NOT NULL,
  unit TEXT NOT NULL,
  reading REAL NOT NULL,
  scale TEXT NOT NULL,
  role TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE trial (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  depth_mm REAL NOT NULL,
  sideways_mm REAL NOT NULL,
  height_mm REAL NOT NULL,
  skew_deg REAL NOT NULL,
  reading REAL NOT NULL,
  channels INTEGER,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE lock (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  symbol_mbd REAL NOT NULL,
  locked INTEGER NOT NULL,
  identity TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE beam (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  name TEXT NOT NULL,
  code TEXT NOT NULL,
  polarisation TEXT NOT NULL,
  least_esn0_db REAL,
  boundary TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE stop (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  position_text TEXT NOT NULL,
  latitude_deg REAL NOT NULL,
  longitude_deg REAL NOT NULL,
  height_m REAL NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE rig (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  kind TEXT NOT NULL,
  stop TEXT,
  base_level_deg REAL,
  gap_mm REAL,
  nearest_mm REAL,
  highest_mm REAL,
  cable_m REAL,
  sealed INTEGER NOT NULL,
  stowed INTEGER NOT NULL,
  FOREIGN KEY (job, stop) REFERENCES stop (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE terminal (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  installer TEXT NOT NULL,
  licence TEXT NOT NULL,
  licence_seen INTEGER NOT NULL,
  beam TEXT,
  esn0_db REAL,
  isolation_db REAL,
  skew_error_deg REAL NOT NULL,
  duty_pct REAL NOT NULL,
  height_above_m REAL,
  state TEXT NOT NULL,
  note TEXT NOT NULL,
  FOREIGN KEY (job, beam) REFERENCES beam (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

INSERT INTO rig (job, kind, stop, base_level_deg, gap_mm, nearest_mm, highest_mm, cable_m, sealed, stowed)
SELECT id, 'none', NULL, NULL, NULL, NULL, NULL, NULL, 0, 0 FROM job;
INSERT INTO terminal (job, installer, licence, licence_seen, beam, esn0_db, isolation_db, skew_error_deg, duty_pct, height_above_m, state, note)
SELECT id, '', '', 0, NULL, NULL, NULL, 0.0, 100.0, NULL, 'new', '' FROM job;
