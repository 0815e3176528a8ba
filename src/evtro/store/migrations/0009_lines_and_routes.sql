-- A company's line carries multiplexes of its own; an outlet may want it, and more than one tuner. A
-- cable lies along a route, at a temperature. Where practitioners differ a job says which school it follows.

ALTER TABLE outlet ADD COLUMN company TEXT NOT NULL DEFAULT 'none';
ALTER TABLE outlet ADD COLUMN tuners INTEGER NOT NULL DEFAULT 1;
ALTER TABLE company ADD COLUMN mer_db REAL;
ALTER TABLE company ADD COLUMN return_high_mhz REAL NOT NULL DEFAULT 65.0;
ALTER TABLE company ADD COLUMN return_most_db REAL NOT NULL DEFAULT 15.0;
ALTER TABLE link ADD COLUMN celsius REAL NOT NULL DEFAULT 20.0;
ALTER TABLE link ADD COLUMN route TEXT NOT NULL DEFAULT '[]';

CREATE TABLE run_school (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  open_ports TEXT NOT NULL,
  slack TEXT NOT NULL,
  connectors TEXT NOT NULL
) STRICT;

INSERT INTO run_school (job, open_ports, slack, connectors) SELECT id, 'capped', 'loop', 'by_place' FROM job;
