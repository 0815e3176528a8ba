-- References that were missing are kept by the database too. History keeps the cells that a change
-- moved, the change as it was asked for and the device that asked; a change that is sent twice is
-- carried out once.


CREATE TABLE new_antenna (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  target TEXT,
  diameter_m REAL NOT NULL,
  efficiency REAL NOT NULL,
  offset_deg REAL NOT NULL,
  datum TEXT NOT NULL,
  constant_deg REAL NOT NULL,
  skew_view TEXT NOT NULL,
  skew_zero TEXT NOT NULL,
  upside_down INTEGER NOT NULL,
  scale_zero_deg REAL NOT NULL,
  skew_turns TEXT NOT NULL,
  level_reads TEXT NOT NULL,
  mounting TEXT NOT NULL,
  coarse_first TEXT NOT NULL,
  focal_ratio REAL NOT NULL,
  reflector_height_mm REAL,
  reflector_width_mm REAL,
  reflector_depth_mm REAL,
  lnb_width_mm REAL NOT NULL,
  lean_deg REAL NOT NULL,
  lean_bearing_deg REAL NOT NULL,
  compass_error_deg REAL NOT NULL,
  scale_error_deg REAL NOT NULL,
  deg_per_turn REAL,
  play_turns REAL NOT NULL,
  motor_limit_deg REAL NOT NULL,
  motor_bend_deg REAL NOT NULL,
  motor_zero_deg REAL NOT NULL,
  availability_pct REAL NOT NULL,
  two_way INTEGER NOT NULL,
  transmit_w REAL NOT NULL,
  transmit_mhz REAL NOT NULL,
  gain_dbi REAL NOT NULL,
  gain_table TEXT NOT NULL,
  model TEXT NOT NULL,
  low_mhz REAL NOT NULL,
  high_mhz REAL NOT NULL,
  beamwidth_deg REAL,
  front_back_db REAL NOT NULL,
  length_m REAL NOT NULL,
  heading_deg REAL,
  elements TEXT NOT NULL,
  rotator INTEGER NOT NULL,
  standing TEXT NOT NULL,
  covering TEXT NOT NULL,
  entry_loss_db REAL,
  above_ground_m REAL,
  hold TEXT,
  on_mast_m REAL NOT NULL,
  wind_area_m2 REAL NOT NULL,
  area_from TEXT NOT NULL,
  surface TEXT NOT NULL,
  ground_k REAL,
  compass_off_deg REAL NOT NULL,
  zero_before_deg REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, hold) REFERENCES hold (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_antenna (
  job, id, seq, kind, name, target, diameter_m, efficiency, offset_deg, datum, constant_deg,
  skew_view, skew_zero, upside_down, scale_zero_deg, skew_turns, level_reads, mounting,
  coarse_first, focal_ratio, reflector_height_mm, reflector_width_mm, reflector_depth_mm,
  lnb_width_mm, lean_deg, lean_bearing_deg, compass_error_deg, scale_error_deg, deg_per_turn,
  play_turns, motor_limit_deg, motor_bend_deg, motor_zero_deg, availability_pct, two_way,
  transmit_w, transmit_mhz, gain_dbi, gain_table, model, low_mhz, high_mhz, beamwidth_deg,
  front_back_db, length_m, heading_deg, elements, rotator, standing, covering, entry_loss_db,
  above_ground_m, hold, on_mast_m, wind_area_m2, area_from, surface, ground_k, compass_off_deg,
  zero_before_deg
)
SELECT
  job, id, seq, kind, name, target, diameter_m, efficiency, offset_deg, datum, constant_deg,
  skew_view, skew_zero, upside_down, scale_zero_deg, skew_turns, level_reads, mounting,
  coarse_first, focal_ratio, reflector_height_mm, reflector_width_mm, reflector_depth_mm,
  lnb_width_mm, lean_deg, lean_bearing_deg, compass_error_deg, scale_error_deg, deg_per_turn,
  play_turns, motor_limit_deg, motor_bend_deg, motor_zero_deg, availability_pct, two_way,
  transmit_w, transmit_mhz, gain_dbi, gain_table, model, low_mhz, high_mhz, beamwidth_deg,
  front_back_db, length_m, heading_deg, elements, rotator, standing, covering, entry_loss_db,
  above_ground_m, (SELECT o.id FROM hold o WHERE o.job = antenna.job AND o.id = antenna.hold),
  on_mast_m, wind_area_m2, area_from, surface, ground_k, compass_off_deg, zero_before_deg
FROM antenna;
DROP TABLE antenna;
ALTER TABLE new_antenna RENAME TO antenna;

CREATE TABLE new_sample (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  target TEXT,
  axis TEXT NOT NULL,
  position REAL NOT NULL,
  unit TEXT NOT NULL,
  reading REAL NOT NULL,
  scale TEXT NOT NULL,
  role TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_sample (
  job, id, seq, antenna, target, axis, position, unit, reading, scale, role
)
SELECT
  job, id, seq, antenna, (SELECT o.id FROM target o WHERE o.job = sample.job AND o.id =
  sample.target), axis, position, unit, reading, scale, role
FROM sample;
DROP TABLE sample;
ALTER TABLE new_sample RENAME TO sample;

CREATE TABLE new_lock (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  symbol_mbd REAL NOT NULL,
  locked INTEGER NOT NULL,
  identity TEXT NOT NULL,
  target TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_lock (
  job, id, seq, antenna, frequency_mhz, polarisation, symbol_mbd, locked, identity, target
)
SELECT
  job, id, seq, antenna, frequency_mhz, polarisation, symbol_mbd, locked, identity, (SELECT o.id
  FROM target o WHERE o.job = lock.job AND o.id = lock.target)
FROM lock;
DROP TABLE lock;
ALTER TABLE new_lock RENAME TO lock;

CREATE TABLE new_part (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  type TEXT NOT NULL,
  name TEXT NOT NULL,
  antenna TEXT,
  outlet TEXT,
  target TEXT,
  setting_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_part (
  job, id, seq, type, name, antenna, outlet, target, setting_db
)
SELECT
  job, id, seq, type, name, antenna, outlet, (SELECT o.id FROM target o WHERE o.job = part.job
  AND o.id = part.target), setting_db
FROM part;
DROP TABLE part;
ALTER TABLE new_part RENAME TO part;

CREATE TABLE new_change (
  job    TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  n      INTEGER NOT NULL,
  at     TEXT NOT NULL,
  device TEXT NOT NULL,           -- who asked; '' for one that does not say
  label  TEXT NOT NULL,
  asked  TEXT,                    -- the change as it was asked for; older forms kept none
  diff   TEXT NOT NULL,           -- [[table, id, cells before, cells after], ...]
  undone INTEGER NOT NULL,        -- taken back, and can be carried out again
  revision INTEGER NOT NULL,      -- that it made, or that taking it back or forth made
  PRIMARY KEY (job, n)
) STRICT;
INSERT INTO new_change (job, n, at, device, label, asked, diff, undone, revision)
SELECT c.job, c.n, c.at, '', c.label, NULL, cells(c.diff), c.n > j.change_at, j.revision
FROM change c JOIN job j ON j.id = c.job;
DROP TABLE change;
ALTER TABLE new_change RENAME TO change;
ALTER TABLE job DROP COLUMN change_at;

CREATE TABLE sent (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  key      TEXT NOT NULL,         -- of the request that was carried out
  at       TEXT NOT NULL,
  PRIMARY KEY (job, key)
) STRICT;
