-- A job's state has a name that no other state ever has; a removed job stays for thirty days; the
-- cells that each revision moved, so that a late write is let in where it touches none of them; the
-- spine as it was worked out, for the list. Theme and units belong to the device from here on.

ALTER TABLE job ADD COLUMN state TEXT NOT NULL DEFAULT '';
ALTER TABLE job ADD COLUMN removed_at TEXT;
UPDATE job SET state = token();
CREATE INDEX job_by_time ON job (removed_at, kept_at DESC, id);

CREATE TABLE moved (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  cells    TEXT NOT NULL,        -- [[table, id, [columns]], ...]
  PRIMARY KEY (job, revision)
) STRICT;

CREATE TABLE spine (
  job     TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  state   TEXT NOT NULL,         -- the state of the job that it was worked out from
  program TEXT NOT NULL,         -- and the program, its catalogue and its profiles
  line    TEXT NOT NULL
) STRICT;

DROP TABLE setting;

-- Characters that are none were let in before; a space stands in their place.
UPDATE job SET name = cleaned(name), place = cleaned(place), profile = cleaned(profile);
UPDATE site SET position_text = cleaned(position_text), consent_note = cleaned_note(consent_note);
UPDATE mast SET wind_region = cleaned(wind_region);
UPDATE handover SET customer = cleaned(customer), installer = cleaned(installer), remarks = cleaned_note(remarks);
UPDATE outlet SET name = cleaned(name), floor = cleaned(floor);
UPDATE target SET name = cleaned(name);
UPDATE carrier SET name = cleaned(name), modulation = cleaned(modulation), label = cleaned(label), services = cleaned_json(services), network = cleaned(network);
UPDATE obstruction SET name = cleaned(name);
UPDATE antenna SET name = cleaned(name), model = cleaned(model), covering = cleaned(covering);
UPDATE part SET type = cleaned(type), name = cleaned(name);
UPDATE link SET cable = cleaned(cable), note = cleaned_note(note);
UPDATE mark SET step = cleaned(step), done_at = cleaned(done_at), note = cleaned_note(note);
UPDATE change SET diff = cleaned_json(diff);
UPDATE spot SET name = cleaned(name), note = cleaned_note(note);
UPDATE preset SET name = cleaned(name);
UPDATE trial SET note = cleaned_note(note);
UPDATE lock SET identity = cleaned(identity);
UPDATE beam SET name = cleaned(name), code = cleaned(code);
UPDATE stop SET name = cleaned(name), position_text = cleaned(position_text);
UPDATE terminal SET installer = cleaned(installer), licence = cleaned(licence), note = cleaned_note(note);
UPDATE relief SET source = cleaned(source);
UPDATE hold SET place = cleaned(place), note = cleaned_note(note);
UPDATE scan SET at = cleaned(at), found = cleaned_json(found), note = cleaned_note(note);
UPDATE company SET note = cleaned_note(note);
UPDATE OR IGNORE transmitter SET name = cleaned(name), carriers = cleaned_json(carriers);
