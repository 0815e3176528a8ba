-- One row a job, one table for each kind of thing an installer enters.
-- seq keeps the order in which rows are shown. References inside a job are checked at commit.

CREATE TABLE job (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  place     TEXT NOT NULL,
  profile   TEXT NOT NULL,
  date      TEXT NOT NULL,
  revision  INTEGER NOT NULL DEFAULT 0,
  change_at INTEGER NOT NULL DEFAULT 0,   -- the newest change that is in force; undo moves it back
  kept_at   TEXT NOT NULL
) STRICT;

CREATE TABLE site (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  position_text TEXT NOT NULL,
  latitude_deg REAL,
  longitude_deg REAL,
  height_m REAL NOT NULL,
  mount_height_m REAL NOT NULL,
  keep_clear_deg REAL,
  building_length_m REAL NOT NULL,
  building_width_m REAL NOT NULL,
  building_bearing_deg REAL NOT NULL,
  building_offset_m REAL NOT NULL,
  building_offset_bearing_deg REAL NOT NULL,
  entry_distance_m REAL NOT NULL,
  entry_bearing_deg REAL NOT NULL
) STRICT;

CREATE TABLE mast (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  length_m REAL NOT NULL,
  held_m REAL NOT NULL,
  outer_mm REAL NOT NULL,
  wall_mm REAL NOT NULL,
  yield_mpa REAL NOT NULL,
  moment_limit_nm REAL,
  wind_ms REAL,
  fixing TEXT NOT NULL
) STRICT;

CREATE TABLE earth (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  indoors INTEGER NOT NULL,
  below_roof_edge_m REAL NOT NULL,
  from_wall_m REAL NOT NULL,
  overhead_lines TEXT NOT NULL,
  line_distance_m REAL
) STRICT;

CREATE TABLE handover (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  customer TEXT NOT NULL,
  installer TEXT NOT NULL,
  remarks TEXT NOT NULL,
  handed_over INTEGER NOT NULL
) STRICT;

CREATE TABLE outlet (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  floor TEXT NOT NULL,
  terrestrial INTEGER NOT NULL,
  satellite INTEGER NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE target (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  orbit_deg_e REAL,
  polarisation_offset_deg REAL NOT NULL,
  circular INTEGER NOT NULL,
  latitude_deg REAL,
  longitude_deg REAL,
  height_m REAL NOT NULL,
  extra_loss_db REAL NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE carrier (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  name TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  bandwidth_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  power REAL NOT NULL,
  modulation TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE obstruction (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  outline TEXT NOT NULL,
  from_deg REAL NOT NULL,
  to_deg REAL NOT NULL,
  top_deg REAL,
  distance_m REAL,
  above_m REAL,
  seen_from_m REAL NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE antenna (
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
  gain_dbi REAL NOT NULL,
  on_mast_m REAL NOT NULL,
  wind_area_m2 REAL NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE conductor (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  role TEXT NOT NULL,
  material TEXT NOT NULL,
  size_mm2 REAL NOT NULL,
  length_m REAL NOT NULL,
  connected INTEGER NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

CREATE TABLE part (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  type TEXT NOT NULL,
  name TEXT NOT NULL,
  antenna TEXT,
  outlet TEXT,
  setting_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE link (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  from_part TEXT NOT NULL,
  from_port INTEGER NOT NULL,
  to_part TEXT NOT NULL,
  to_port INTEGER NOT NULL,
  cable TEXT NOT NULL,
  length_m REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, from_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, to_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE reading (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  part TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;

CREATE TABLE mark (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  step TEXT NOT NULL,
  done_at TEXT NOT NULL,
  danger_read INTEGER NOT NULL,
  value REAL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;

-- The history: what each change took away and put in place, as JSON rows by table.
CREATE TABLE change (
  job   TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  n     INTEGER NOT NULL,
  at    TEXT NOT NULL,
  label TEXT NOT NULL,
  diff  TEXT NOT NULL,
  PRIMARY KEY (job, n)
) STRICT;

-- The interface's own settings: theme, units, level unit, north.
CREATE TABLE setting (
  name  TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;
