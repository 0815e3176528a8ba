-- A mast stands on one of several mounts, each with its own fixings. A gate says who confirmed it and when;
-- an overhead line has a voltage, or is made dead by its operator.

ALTER TABLE mast ADD COLUMN base TEXT NOT NULL DEFAULT 'unknown';
ALTER TABLE mast ADD COLUMN bolts INTEGER NOT NULL DEFAULT 4;
ALTER TABLE mast ADD COLUMN bolt_mm REAL NOT NULL DEFAULT 8.0;
ALTER TABLE mast ADD COLUMN bolt_pull_n REAL;
ALTER TABLE mast ADD COLUMN bolt_shear_n REAL;
ALTER TABLE mast ADD COLUMN standoff_m REAL NOT NULL DEFAULT 0.2;
ALTER TABLE mast ADD COLUMN bolts_apart_m REAL NOT NULL DEFAULT 0.2;
ALTER TABLE mast ADD COLUMN ballast_kg REAL NOT NULL DEFAULT 0.0;
ALTER TABLE mast ADD COLUMN foot_m REAL NOT NULL DEFAULT 1.0;
ALTER TABLE mast ADD COLUMN buried_m REAL NOT NULL DEFAULT 0.8;
ALTER TABLE mast ADD COLUMN footing_mm REAL NOT NULL DEFAULT 300.0;
ALTER TABLE mast ADD COLUMN crew INTEGER NOT NULL DEFAULT 1;
ALTER TABLE dish ADD COLUMN weight_kg REAL;
ALTER TABLE array ADD COLUMN weight_kg REAL;
ALTER TABLE mark ADD COLUMN confirmed_by TEXT NOT NULL DEFAULT '';
ALTER TABLE mark ADD COLUMN confirmed_at TEXT NOT NULL DEFAULT '';
ALTER TABLE earth ADD COLUMN line_kv REAL;
ALTER TABLE earth ADD COLUMN line_operator TEXT NOT NULL DEFAULT '';
ALTER TABLE earth ADD COLUMN line_dead_confirmed TEXT NOT NULL DEFAULT '';
