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
