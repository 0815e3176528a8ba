-- A dish and a terrestrial antenna are two kinds of row. They share their ids, which the table
-- `antenna` holds for rows that may name either; it follows the two by triggers.

CREATE TABLE dish (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  target TEXT,
  on_mast_m REAL NOT NULL,
  wind_area_m2 REAL NOT NULL,
  compass_error_deg REAL NOT NULL,
  compass_off_deg REAL NOT NULL,
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
  scale_error_deg REAL NOT NULL,
  mounting TEXT NOT NULL,
  coarse_first TEXT NOT NULL,
  focal_ratio REAL NOT NULL,
  reflector_height_mm REAL,
  reflector_width_mm REAL,
  reflector_depth_mm REAL,
  lnb_width_mm REAL NOT NULL,
  lean_deg REAL NOT NULL,
  lean_bearing_deg REAL NOT NULL,
  deg_per_turn REAL,
  play_turns REAL NOT NULL,
  motor_limit_deg REAL NOT NULL,
  motor_bend_deg REAL NOT NULL,
  motor_zero_deg REAL NOT NULL,
  availability_pct REAL NOT NULL,
  two_way INTEGER NOT NULL,
  transmit_w REAL NOT NULL,
  transmit_mhz REAL NOT NULL,
  area_from TEXT NOT NULL,
  surface TEXT NOT NULL,
  ground_k REAL,
  zero_before_deg REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO dish (
  job, id, seq, name, target, on_mast_m, wind_area_m2, compass_error_deg, compass_off_deg,
  diameter_m, efficiency, offset_deg, datum, constant_deg, skew_view, skew_zero, upside_down,
  scale_zero_deg, skew_turns, level_reads, scale_error_deg, mounting, coarse_first,
  focal_ratio, reflector_height_mm, reflector_width_mm, reflector_depth_mm, lnb_width_mm,
  lean_deg, lean_bearing_deg, deg_per_turn, play_turns, motor_limit_deg, motor_bend_deg,
  motor_zero_deg, availability_pct, two_way, transmit_w, transmit_mhz, area_from, surface,
  ground_k, zero_before_deg
)
SELECT
  job, id, seq, name, target, on_mast_m, wind_area_m2, compass_error_deg, compass_off_deg,
  diameter_m, efficiency, offset_deg, datum, constant_deg, skew_view, skew_zero, upside_down,
  scale_zero_deg, skew_turns, level_reads, scale_error_deg, mounting, coarse_first,
  focal_ratio, reflector_height_mm, reflector_width_mm, reflector_depth_mm, lnb_width_mm,
  lean_deg, lean_bearing_deg, deg_per_turn, play_turns, motor_limit_deg, motor_bend_deg,
  motor_zero_deg, availability_pct, two_way, transmit_w, transmit_mhz, area_from, surface,
  ground_k, zero_before_deg
FROM antenna WHERE kind = 'dish';

CREATE TABLE array (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  target TEXT,
  on_mast_m REAL NOT NULL,
  wind_area_m2 REAL NOT NULL,
  compass_error_deg REAL NOT NULL,
  compass_off_deg REAL NOT NULL,
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
  stands_at TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, stands_at) REFERENCES trial_spot (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO array (
  job, id, seq, name, target, on_mast_m, wind_area_m2, compass_error_deg, compass_off_deg,
  gain_dbi, gain_table, model, low_mhz, high_mhz, beamwidth_deg, front_back_db, length_m,
  heading_deg, elements, rotator, standing, covering, entry_loss_db, above_ground_m, stands_at
)
SELECT
  job, id, seq, name, target, on_mast_m, wind_area_m2, compass_error_deg, compass_off_deg,
  gain_dbi, gain_table, model, low_mhz, high_mhz, beamwidth_deg, front_back_db, length_m,
  heading_deg, elements, rotator, standing, covering, entry_loss_db, above_ground_m, hold
FROM antenna WHERE kind = 'array';

-- What each id stood for, and when: it may have been a dish once and an array later.
CREATE TEMP TABLE stood (job TEXT, id TEXT, n INTEGER, kind TEXT);
INSERT INTO stood SELECT job, id, 9223372036854775807, kind FROM antenna;
INSERT INTO stood
SELECT c.job, json_extract(e.value, '$[1]'), c.n,
  coalesce(json_extract(e.value, '$[2].kind'), json_extract(e.value, '$[3].kind'))
FROM change c, json_each(c.diff) e
WHERE json_extract(e.value, '$[0]') = 'antenna'
  AND (json_type(e.value, '$[2]') = 'null' OR json_type(e.value, '$[3]') = 'null');
CREATE INDEX temp.stood_by_job ON stood (job, n);
-- The last of an id counts: what stood there before the change, else what came after it first.
UPDATE change SET diff = parted(diff, (
  SELECT json_group_array(json_array(id, kind)) FROM (
    SELECT id, kind, n <= change.n AS before, CASE WHEN n <= change.n THEN n ELSE -n END AS near
    FROM stood WHERE stood.job = change.job ORDER BY before, near
  )
)) WHERE diff LIKE '%["antenna",%' OR diff LIKE '%["trial",%' OR diff LIKE '%["hold",%'
  OR diff LIKE '%["heard",%';
DROP TABLE stood;
UPDATE change SET planned = planned(diff);  -- what was read on site is told by its table
DELETE FROM moved;  -- cells by the old names; a page that is still open reads the job anew

DROP TABLE antenna;
CREATE TABLE antenna (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO antenna SELECT job, id FROM dish UNION ALL SELECT job, id FROM array;
CREATE TRIGGER dish_came AFTER INSERT ON dish
BEGIN INSERT INTO antenna VALUES (new.job, new.id); END;
CREATE TRIGGER dish_went AFTER DELETE ON dish
BEGIN DELETE FROM antenna WHERE job = old.job AND id = old.id; END;
CREATE TRIGGER array_came AFTER INSERT ON array
BEGIN INSERT INTO antenna VALUES (new.job, new.id); END;
CREATE TRIGGER array_went AFTER DELETE ON array
BEGIN DELETE FROM antenna WHERE job = old.job AND id = old.id; END;

-- Feeds, zones and tries of a feed belong to dishes, spots to arrays. No page showed one of the
-- other kind.

CREATE TABLE new_feed (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  target TEXT NOT NULL,
  placed_mm REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES dish (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_feed (
  job, id, seq, antenna, target, placed_mm
)
SELECT
  job, id, seq, antenna, target, placed_mm
FROM feed WHERE EXISTS
  (SELECT 1 FROM dish o WHERE o.job = feed.job AND o.id = feed.antenna);
DROP TABLE feed;
ALTER TABLE new_feed RENAME TO feed;

CREATE TABLE new_preset (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  name TEXT NOT NULL,
  tilt_deg REAL NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES dish (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO new_preset (
  job, id, seq, antenna, name, tilt_deg
)
SELECT
  job, id, seq, antenna, name, tilt_deg
FROM preset WHERE EXISTS
  (SELECT 1 FROM dish o WHERE o.job = preset.job AND o.id = preset.antenna);
DROP TABLE preset;
ALTER TABLE new_preset RENAME TO preset;

CREATE TABLE feed_try (
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
  at TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES dish (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO feed_try (
  job, id, seq, antenna, depth_mm, sideways_mm, height_mm, skew_deg, reading, channels, note,
  at
)
SELECT
  job, id, seq, antenna, depth_mm, sideways_mm, height_mm, skew_deg, reading, channels, note,
  at
FROM trial WHERE EXISTS
  (SELECT 1 FROM dish o WHERE o.job = trial.job AND o.id = trial.antenna);
DROP TABLE trial;

CREATE TABLE trial_spot (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  place TEXT NOT NULL,
  above_ground_m REAL,
  heading_deg REAL,
  tilt_deg REAL NOT NULL,
  note TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES array (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO trial_spot (
  job, id, seq, antenna, place, above_ground_m, heading_deg, tilt_deg, note, at
)
SELECT
  job, id, seq, antenna, place, above_ground_m, heading_deg, tilt_deg, note, at
FROM hold WHERE EXISTS
  (SELECT 1 FROM array o WHERE o.job = hold.job AND o.id = hold.antenna);
DROP TABLE hold;

CREATE TABLE trial_reading (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  spot TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  at TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, spot) REFERENCES trial_spot (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO trial_reading (
  job, id, seq, spot, carrier, level_dbuv, cn_db, at
)
SELECT
  job, id, seq, hold, carrier, level_dbuv, cn_db, at
FROM heard WHERE EXISTS
  (SELECT 1 FROM trial_spot o WHERE o.job = heard.job AND o.id = heard.hold);
DROP TABLE heard;

UPDATE array SET stands_at = NULL WHERE stands_at IS NOT NULL AND NOT EXISTS
  (SELECT 1 FROM trial_spot o WHERE o.job = array.job AND o.id = array.stands_at);
-- Own sheets of the workshop: data of parts, cables and antennas in place of generic ones or beside them.

CREATE TABLE sheet (
  shelf TEXT NOT NULL,            -- part, cable or array
  key TEXT NOT NULL,              -- by which runs use it
  base TEXT NOT NULL,             -- the key of what it was made from
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,             -- JSON
  PRIMARY KEY (shelf, key)
) STRICT;
