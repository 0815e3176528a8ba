-- How good a position is, where a dish's wind area comes from, wind regions, evidence by feed,
-- single-frequency networks, what a mounting place is like.

ALTER TABLE site ADD COLUMN position_good_m REAL;
ALTER TABLE target ADD COLUMN delay_us REAL NOT NULL DEFAULT 0.0;
ALTER TABLE carrier ADD COLUMN guard_us REAL;
ALTER TABLE spot ADD COLUMN surface TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE spot ADD COLUMN access TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE spot ADD COLUMN wind TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE spot ADD COLUMN in_way TEXT NOT NULL DEFAULT 'nothing';
ALTER TABLE spot ADD COLUMN noise TEXT NOT NULL DEFAULT 'none';
ALTER TABLE mast ADD COLUMN wind_region TEXT NOT NULL DEFAULT '';
ALTER TABLE antenna ADD COLUMN area_from TEXT NOT NULL DEFAULT 'size';
ALTER TABLE antenna ADD COLUMN surface TEXT NOT NULL DEFAULT 'solid';
ALTER TABLE antenna ADD COLUMN ground_k REAL;
ALTER TABLE antenna ADD COLUMN compass_off_deg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE antenna ADD COLUMN zero_before_deg REAL;
ALTER TABLE sample ADD COLUMN target TEXT;
ALTER TABLE lock ADD COLUMN target TEXT;

-- Until now 0.5 m² stood for every dish that was added by hand: that was nobody's own figure.
UPDATE antenna SET area_from = 'own'
 WHERE kind = 'dish' AND abs(wind_area_m2 - 0.5) > 1e-9
   AND abs(wind_area_m2 - 1.1 * 0.785 * diameter_m * diameter_m) > 1e-6;
