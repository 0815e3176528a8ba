PRAGMA user_version = 11;
PRAGMA application_id = 1165390962;
BEGIN TRANSACTION;
CREATE TABLE antenna (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "antenna" VALUES('fern-cottage','a2');
INSERT INTO "antenna" VALUES('fern-cottage','a1');
INSERT INTO "antenna" VALUES('skerry-house','a2');
INSERT INTO "antenna" VALUES('skerry-house','a3');
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
  stands_at TEXT, weight_kg REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, stands_at) REFERENCES trial_spot (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "array" VALUES('fern-cottage','a1',1024,'UHF array','t1',1.6,0.08,3.0,0.0,11.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL,NULL);
INSERT INTO "array" VALUES('skerry-house','a2',2048,'UHF array','t3',1.9,0.09,3.0,0.0,12.5,'[]','',30.0,3000.0,NULL,20.0,1.0,123.0,'auto',0,'outdoors','',NULL,NULL,NULL,NULL);
INSERT INTO "array" VALUES('skerry-house','a3',3072,'Third again, named',NULL,0.5,0.1,3.0,0.0,12.0,'[]','row-13',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL,NULL);
CREATE TABLE array_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
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
CREATE TABLE cable_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "cable_data" VALUES('fern-cottage','dc1',1024,'rg6','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "rg6", "name": "7 mm coax, RG-6 class, copper", "short": "7 mm", "a": 0.682, "b": 0.0004, "loop_ohm_km": 50.0, "diameter_mm": 6.9, "outdoor": true, "velocity": 0.82}');
INSERT INTO "cable_data" VALUES('skerry-house','dc1',1024,'rg59','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "rg59", "name": "6 mm coax, RG-59 class", "short": "6 mm", "a": 0.83, "b": 0.0004, "loop_ohm_km": 75.0, "diameter_mm": 6.1, "outdoor": false, "velocity": 0.82}');
INSERT INTO "cable_data" VALUES('skerry-house','dc2',2048,'rg6','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "rg6", "name": "7 mm coax, RG-6 class, copper", "short": "7 mm", "a": 0.682, "b": 0.0004, "loop_ohm_km": 50.0, "diameter_mm": 6.9, "outdoor": true, "velocity": 0.82}');
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
  modulation TEXT NOT NULL, label TEXT NOT NULL DEFAULT '', services TEXT NOT NULL DEFAULT '[]', network TEXT NOT NULL DEFAULT '', guard_us REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "carrier" VALUES('fern-cottage','c1',1024,'t1','Renamed once',529.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c2',2048,'t1','mux B',564.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c3',3072,'t1','mux C',599.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c4',4096,'t2','H 12.407',12407.0,30.0,'H',51.0,'DVB-S2 8PSK 3/5','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c5',5120,'t2','V 12.576',12576.0,30.0,'V',51.0,'DVB-S2 8PSK 3/5','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c1',1024,'t3','mux 1',482.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c2',2048,'t3','mux 2',586.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c3',3072,'t3','mux 3',690.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c4',4096,'t1','V 10.714',10714.0,27.5,'V',50.9,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c5',5120,'t1','H 11.138',11138.0,27.5,'H',50.9,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c6',6144,'t1','V 12.364',12364.0,27.5,'V',50.9,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c7',7168,'t1','H 12.738',12738.0,27.5,'H',50.9,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c8',8192,'t5','V 10.714',10714.0,22.0,'V',49.5,'DVB-S2 8PSK 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c9',9216,'t5','H 11.138',11138.0,27.5,'H',49.5,'DVB-S2 8PSK 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c10',10240,'t5','V 11.597',11597.0,22.0,'V',49.5,'DVB-S2 8PSK 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c11',11264,'t4','V 10.714',10714.0,27.5,'V',50.0,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c12',12288,'t4','H 11.264',11264.0,22.0,'H',50.0,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c13',13312,'t4','H 12.322',12322.0,27.5,'H',50.0,'DVB-S2 8PSK 2/3','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c14',14336,'t6','H 11.138',11138.0,30.0,'H',48.0,'DVB-S2 QPSK 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c15',15360,'t6','V 11.389',11389.0,22.0,'V',48.0,'DVB-S2 QPSK 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('skerry-house','c16',16384,'t6','V 12.713',12713.0,30.0,'V',48.0,'DVB-S2 QPSK 3/4','','[]','',NULL);
CREATE TABLE "change" (
  job    TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  n      INTEGER NOT NULL,
  at     TEXT NOT NULL,
  device TEXT NOT NULL,           -- who asked; '' for one that does not say
  label  TEXT NOT NULL,
  asked  TEXT,                    -- the change as it was asked for; older forms kept none
  diff   TEXT NOT NULL,           -- [[table, id, cells before, cells after], ...]
  undone INTEGER NOT NULL,        -- taken back, and can be carried out again
  revision INTEGER NOT NULL, planned INTEGER NOT NULL DEFAULT 1,      -- that it made, or that taking it back or forth made
  PRIMARY KEY (job, n)
) STRICT;
INSERT INTO "change" VALUES('fern-cottage',1,'2026-11-27T07:16:49.103+00:00','','change site',NULL,'[["site","",{"mount_height_m":5.2},{"mount_height_m":7.5}]]',0,1,1);
INSERT INTO "change" VALUES('fern-cottage',2,'2026-11-27T07:16:49.104+00:00','','change carrier',NULL,'[["carrier","c1",{"name":"mux A"},{"name":"Renamed once"}]]',0,2,1);
INSERT INTO "change" VALUES('fern-cottage',3,'2026-11-27T07:16:49.105+00:00','','remove outlet',NULL,'[["outlet","o3",{"id":"o3","name":"Living room, dish","floor":"Ground floor","terrestrial":false,"satellite":true,"seq":3072},null],["part","p10",{"id":"p10","type":"plate","name":"","antenna":null,"outlet":"o3","target":null,"setting_db":null,"seq":10240},null],["link","l8",{"id":"l8","from_part":"p9","from_port":0,"to_part":"p10","to_port":0,"cable":"rg6","length_m":9.0,"note":"","seq":8192},null]]',0,3,1);
INSERT INTO "change" VALUES('fern-cottage',4,'2026-11-27T07:16:49.106+00:00','','change target',NULL,'[["target","t1",{"name":"Currawong Knoll"},{"name":"Old name of a target"}]]',1,5,1);
INSERT INTO "change" VALUES('skerry-house',1,'2026-11-27T07:16:49.110+00:00','','change array',NULL,'[["array","a2",{"heading_deg":null},{"heading_deg":123.0}]]',0,1,1);
INSERT INTO "change" VALUES('skerry-house',2,'2026-11-27T07:16:49.111+00:00','','change dish',NULL,'[["dish","a1",{"diameter_m":0.8},{"diameter_m":1.1}]]',0,2,1);
INSERT INTO "change" VALUES('skerry-house',3,'2026-11-27T07:16:49.112+00:00','','add dish',NULL,'[["dish","a3",null,{"id":"a3","name":"Third","target":null,"diameter_m":0.8,"efficiency":0.65,"offset_deg":25.0,"datum":"face","constant_deg":0.0,"skew_view":"behind","skew_zero":"V","upside_down":false,"scale_zero_deg":0.0,"skew_turns":"lnb","level_reads":"0","mounting":"fixed","coarse_first":"elevation","focal_ratio":0.6,"reflector_height_mm":null,"reflector_width_mm":null,"reflector_depth_mm":null,"lnb_width_mm":60.0,"lean_deg":0.0,"lean_bearing_deg":0.0,"compass_error_deg":3.0,"scale_error_deg":0.5,"deg_per_turn":null,"play_turns":0.0,"motor_limit_deg":65.0,"motor_bend_deg":30.0,"motor_zero_deg":0.0,"availability_pct":99.7,"two_way":false,"transmit_w":2.0,"transmit_mhz":14250.0,"on_mast_m":0.5,"wind_area_m2":0.1,"area_from":"size","surface":"solid","ground_k":null,"compass_off_deg":0.0,"zero_before_deg":null,"seq":3072}]]',0,3,1);
INSERT INTO "change" VALUES('skerry-house',4,'2026-11-27T07:16:49.113+00:00','','name dish',NULL,'[["dish","a3",{"name":"Third"},{"name":"Third, named"}]]',0,4,1);
INSERT INTO "change" VALUES('skerry-house',5,'2026-11-27T07:16:49.114+00:00','','remove dish',NULL,'[["dish","a3",{"id":"a3","name":"Third, named","target":null,"diameter_m":0.8,"efficiency":0.65,"offset_deg":25.0,"datum":"face","constant_deg":0.0,"skew_view":"behind","skew_zero":"V","upside_down":false,"scale_zero_deg":0.0,"skew_turns":"lnb","level_reads":"0","mounting":"fixed","coarse_first":"elevation","focal_ratio":0.6,"reflector_height_mm":null,"reflector_width_mm":null,"reflector_depth_mm":null,"lnb_width_mm":60.0,"lean_deg":0.0,"lean_bearing_deg":0.0,"compass_error_deg":3.0,"scale_error_deg":0.5,"deg_per_turn":null,"play_turns":0.0,"motor_limit_deg":65.0,"motor_bend_deg":30.0,"motor_zero_deg":0.0,"availability_pct":99.7,"two_way":false,"transmit_w":2.0,"transmit_mhz":14250.0,"on_mast_m":0.5,"wind_area_m2":0.1,"area_from":"size","surface":"solid","ground_k":null,"compass_off_deg":0.0,"zero_before_deg":null,"seq":3072},null]]',0,5,1);
INSERT INTO "change" VALUES('skerry-house',6,'2026-11-27T07:16:49.115+00:00','','add array',NULL,'[["array","a3",null,{"id":"a3","name":"Third again","target":null,"compass_error_deg":3.0,"gain_dbi":12.0,"gain_table":[],"model":"row-13","low_mhz":30.0,"high_mhz":3000.0,"beamwidth_deg":null,"front_back_db":20.0,"length_m":1.0,"heading_deg":null,"elements":"auto","rotator":false,"standing":"outdoors","covering":"","entry_loss_db":null,"above_ground_m":null,"stands_at":null,"on_mast_m":0.5,"wind_area_m2":0.1,"compass_off_deg":0.0,"seq":3072}]]',0,6,1);
INSERT INTO "change" VALUES('skerry-house',7,'2026-11-27T07:16:49.115+00:00','','name array',NULL,'[["array","a3",{"name":"Third again"},{"name":"Third again, named"}]]',0,7,1);
INSERT INTO "change" VALUES('skerry-house',8,'2026-11-27T07:16:49.117+00:00','','remove first dish',NULL,'[["dish","a1",{"id":"a1","name":"Dish 0.8 m","target":"t1","diameter_m":1.1,"efficiency":0.65,"offset_deg":25.0,"datum":"face_level","constant_deg":0.0,"skew_view":"behind","skew_zero":"V","upside_down":false,"scale_zero_deg":0.0,"skew_turns":"lnb","level_reads":"0","mounting":"fixed","coarse_first":"elevation","focal_ratio":0.6,"reflector_height_mm":null,"reflector_width_mm":null,"reflector_depth_mm":null,"lnb_width_mm":60.0,"lean_deg":0.4,"lean_bearing_deg":250.0,"compass_error_deg":3.0,"scale_error_deg":0.5,"deg_per_turn":0.8,"play_turns":0.0,"motor_limit_deg":65.0,"motor_bend_deg":30.0,"motor_zero_deg":0.0,"availability_pct":99.7,"two_way":false,"transmit_w":2.0,"transmit_mhz":14250.0,"on_mast_m":0.5,"wind_area_m2":0.1,"area_from":"size","surface":"solid","ground_k":null,"compass_off_deg":0.0,"zero_before_deg":null,"seq":1024},null],["sample","q1",{"at":"","id":"q1","antenna":"a1","target":null,"axis":"azimuth","position":-2.0,"unit":"deg","reading":8.6,"scale":"db","role":"sweep","seq":1024},null],["sample","q2",{"at":"","id":"q2","antenna":"a1","target":null,"axis":"azimuth","position":-1.5,"unit":"deg","reading":11.3,"scale":"db","role":"sweep","seq":2048},null],["sample","q3",{"at":"","id":"q3","antenna":"a1","target":null,"axis":"azimuth","position":-1.0,"unit":"deg","reading":13.3,"scale":"db","role":"sweep","seq":3072},null],["sample","q4",{"at":"","id":"q4","antenna":"a1","target":null,"axis":"azimuth","position":-0.5,"unit":"deg","reading":14.2,"scale":"db","role":"sweep","seq":4096},null],["sample","q5",{"at":"","id":"q5","antenna":"a1","target":null,"axis":"azimuth","position":0.0,"unit":"deg","reading":13.8,"scale":"db","role":"sweep","seq":5120},null],["sample","q6",{"at":"","id":"q6","antenna":"a1","target":null,"axis":"azimuth","position":0.5,"unit":"deg","reading":12.1,"scale":"db","role":"sweep","seq":6144},null],["sample","q7",{"at":"","id":"q7","antenna":"a1","target":null,"axis":"azimuth","position":1.0,"unit":"deg","reading":9.6,"scale":"db","role":"sweep","seq":7168},null],["part","p3",{"id":"p3","type":"lnb-four","name":"LNB","antenna":"a1","outlet":null,"target":null,"setting_db":null,"seq":3072},null],["link","l3",{"id":"l3","from_part":"p3","from_port":0,"to_part":"p4","to_port":0,"cable":"rg6","length_m":12.0,"note":"","seq":3072},null],["link","l4",{"id":"l4","from_part":"p3","from_port":1,"to_part":"p4","to_port":1,"cable":"rg6","length_m":12.0,"note":"","seq":4096},null],["link","l5",{"id":"l5","from_part":"p3","from_port":2,"to_part":"p4","to_port":2,"cable":"rg6","length_m":12.0,"note":"","seq":5120},null],["link","l6",{"id":"l6","from_part":"p3","from_port":3,"to_part":"p4","to_port":3,"cable":"rg6","length_m":12.0,"note":"","seq":6144},null]]',0,8,1);
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
, mer_db REAL, return_high_mhz REAL NOT NULL DEFAULT 65.0, return_most_db REAL NOT NULL DEFAULT 15.0) STRICT;
INSERT INTO "company" VALUES('fern-cottage','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'',NULL,65.0,15.0);
INSERT INTO "company" VALUES('skerry-house','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'',NULL,65.0,15.0);
CREATE TABLE "conductor" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  role TEXT NOT NULL,
  material TEXT NOT NULL,
  size_mm2 REAL NOT NULL,
  length_m REAL NOT NULL,
  connected INTEGER NOT NULL,
  part TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "conductor" VALUES('fern-cottage','e1',1024,'mast','copper',16.0,5.0,1,NULL);
INSERT INTO "conductor" VALUES('fern-cottage','e2',2048,'shields','copper',4.0,4.0,1,NULL);
INSERT INTO "conductor" VALUES('fern-cottage','e3',3072,'devices','copper',4.0,1.5,1,NULL);
INSERT INTO "conductor" VALUES('skerry-house','e1',1024,'mast','copper',16.0,8.6,1,NULL);
INSERT INTO "conductor" VALUES('skerry-house','e2',2048,'shields','copper',4.0,6.2,1,NULL);
CREATE TABLE day (
  date TEXT PRIMARY KEY,
  revision INTEGER NOT NULL,
  plan TEXT NOT NULL
) STRICT;
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
  zero_before_deg REAL, weight_kg REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "dish" VALUES('fern-cottage','a2',2048,'Dish 0.75 m','t2',0.4,0.1,3.0,0.0,0.75,0.65,22.5,'scale',0.0,'front','V',0,0.0,'lnb','0',0.5,'fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,'size','solid',NULL,NULL,NULL);
CREATE TABLE earth (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  indoors INTEGER NOT NULL,
  below_roof_edge_m REAL NOT NULL,
  from_wall_m REAL NOT NULL,
  overhead_lines TEXT NOT NULL,
  line_distance_m REAL
, line_kv REAL, line_operator TEXT NOT NULL DEFAULT '', line_dead_confirmed TEXT NOT NULL DEFAULT '', electrode TEXT NOT NULL DEFAULT 'own', electrode_ohm REAL, lps TEXT NOT NULL DEFAULT 'none', lps_apart_m REAL) STRICT;
INSERT INTO "earth" VALUES('fern-cottage',0,0.0,0.4,'none',NULL,NULL,'','','own',NULL,'none',NULL);
INSERT INTO "earth" VALUES('skerry-house',0,0.0,0.0,'near',14.0,NULL,'','','own',NULL,'none',NULL);
CREATE TABLE "feed" (
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
CREATE TABLE handover (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  customer TEXT NOT NULL,
  installer TEXT NOT NULL,
  remarks TEXT NOT NULL,
  handed_over INTEGER NOT NULL
) STRICT;
INSERT INTO "handover" VALUES('fern-cottage','The family','A. Mender','',0);
INSERT INTO "handover" VALUES('skerry-house','The house keeper','A. Mender','',0);
CREATE TABLE job (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  place     TEXT NOT NULL,
  profile   TEXT NOT NULL,
  date      TEXT NOT NULL,
  revision  INTEGER NOT NULL DEFAULT 0,
  kept_at   TEXT NOT NULL
, state TEXT NOT NULL DEFAULT '', removed_at TEXT) STRICT;
INSERT INTO "job" VALUES('fern-cottage','Fern Cottage','Mallow Bend','australia-new-zealand','2026-03-25',5,'2026-11-27T07:16:49.106+00:00','a61026375dede96f',NULL);
INSERT INTO "job" VALUES('skerry-house','Skerry House','Port Averil','europe','2026-03-25',8,'2026-11-27T07:16:49.117+00:00','1b3253384fbcb46d',NULL);
CREATE TABLE limit_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "limit_data" VALUES('fern-cottage','dl1',1024,'australia-new-zealand','practice profile, each limit with its own origin','2026-11-26','{"key": "australia-new-zealand", "name": "Australia and New Zealand", "origin": "practice profile, each limit with its own origin", "of_date": "2026-11-26", "units": "metric", "level": "dbuv", "channels": "australia", "small_antenna": "Strata and body corporate by-laws have the say on common walls and roofs; councils exempt small antennas up to a height: ask for theirs.", "keep_clear_deg": 5.0, "keep_clear_origin": "common practice, no source", "keep_clear_two_way_deg": 10.0, "level_reserve_db": 2.0, "margin_db": 3.0, "margin_reserve_db": 1.0, "margin_origin": "common practice, no source", "slope_terrestrial_db": 12.0, "slope_satellite_db": 15.0, "slope_origin": "EN 60728-1 (from memory)", "reading_tolerance_db": 3.0, "reading_origin": "meter \u00b12 dB and parts \u00b12 dB, root of squares (common practice, no source)", "overhead_clear_m": 3.0, "overhead_origin": "3 m to any overhead line (common practice, no source)", "earth_school": "IEC/EN 60728-11, with the local wiring rules", "earth_rules": [{"role": "mast", "name": "Mast to the earth terminal", "joins": "mast clamp and main earth terminal", "sizes": [{"material": "copper", "least_mm2": 16.0, "of": "copper"}, {"material": "aluminium", "least_mm2": 25.0, "of": "insulated aluminium"}, {"material": "steel", "least_mm2": 50.0, "of": "steel"}], "longest_m": null, "lightning": true, "origin": "IEC/EN 60728-11 (from memory)"}, {"role": "shields", "name": "Coax shields and devices", "joins": "grounding block and main earth terminal", "sizes": [{"material": "copper", "least_mm2": 4.0, "of": "copper"}], "longest_m": null, "lightning": false, "origin": "IEC/EN 60728-11 (from memory)"}, {"role": "devices", "name": "Amplifier and multiswitch housing", "joins": "housing and bonding bar", "sizes": [{"material": "copper", "least_mm2": 4.0, "of": "copper"}], "longest_m": null, "lightning": false, "origin": "IEC/EN 60728-11 (from memory)"}], "exemption": {"below_roof_edge_m": 2.0, "from_wall_m": 1.5, "origin": "IEC/EN 60728-11 (from memory)"}, "windows": {"DVB-T": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-T2": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-S": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "DVB-S2": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "ATSC": {"low_dbuv": 40.75, "high_dbuv": 88.75, "origin": "North American practice, -68 to -20 dBm (from memory)"}, "DVB-C": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "AS/NZS 1367 (from memory)"}, "DVB-S2X": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "ATSC 3.0": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "ISDB-T": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DTMB": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-C 64QAM": {"low_dbuv": 47.0, "high_dbuv": 67.0, "origin": "EN 60728-1 (from memory)"}, "DVB-C 256QAM": {"low_dbuv": 54.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "FM": {"low_dbuv": 50.0, "high_dbuv": 70.0, "origin": "EN 60728-1, stereo (from memory)"}, "DAB": {"low_dbuv": 32.0, "high_dbuv": 70.0, "origin": "common practice, no source"}, "Mobile": {"low_dbuv": -60.0, "high_dbuv": 150.0, "origin": "no service"}}, "wind": {"coefficient": 1.2, "air_kg_m3": 1.2, "regions": [{"key": "a", "name": "A, no cyclones", "origin": "AS/NZS 1170.2, 500 years, region A (from memory)", "pressure_low_pa": 0.0, "pressure_high_pa": 0.0, "change_at_m": 20.0, "speed_ms": 45.0, "exponent": 0.21}, {"key": "b", "name": "B, between", "origin": "AS/NZS 1170.2, 500 years, region B (from memory)", "pressure_low_pa": 0.0, "pressure_high_pa": 0.0, "change_at_m": 20.0, "speed_ms": 57.0, "exponent": 0.21}, {"key": "c", "name": "C, cyclones", "origin": "AS/NZS 1170.2, 500 years, region C with its factor (from memory)", "pressure_low_pa": 0.0, "pressure_high_pa": 0.0, "change_at_m": 20.0, "speed_ms": 69.3, "exponent": 0.21}, {"key": "d", "name": "D, severe cyclones", "origin": "AS/NZS 1170.2, 500 years, region D with its factor (from memory)", "pressure_low_pa": 0.0, "pressure_high_pa": 0.0, "change_at_m": 20.0, "speed_ms": 88.0, "exponent": 0.21}], "moment_limit_nm": 1650.0, "held_fraction": 0.16666667, "origin": "EN/IEC 60728-11 (from memory), for want of a local limit"}, "mobile": {"erp_kw": 0.61, "away_m": 1000.0, "frequency_mhz": 763.0, "filter": "filter-694", "origin": "common practice, no source"}}');
INSERT INTO "limit_data" VALUES('skerry-house','dl1',1024,'europe','practice profile, each limit with its own origin','2026-11-26','{"key": "europe", "name": "Europe", "origin": "practice profile, each limit with its own origin", "of_date": "2026-11-26", "units": "metric", "level": "dbuv", "channels": "europe", "small_antenna": "Owner, association and planning office differ from country to country: ask before the first hole. Heritage areas want a permit almost everywhere.", "keep_clear_deg": 5.0, "keep_clear_origin": "common practice, no source", "keep_clear_two_way_deg": 10.0, "level_reserve_db": 2.0, "margin_db": 3.0, "margin_reserve_db": 1.0, "margin_origin": "common practice, no source", "slope_terrestrial_db": 12.0, "slope_satellite_db": 15.0, "slope_origin": "EN 60728-1 (from memory)", "reading_tolerance_db": 3.0, "reading_origin": "meter \u00b12 dB and parts \u00b12 dB, root of squares (common practice, no source)", "overhead_clear_m": 3.0, "overhead_origin": "3 m to any overhead line (common practice, no source)", "earth_school": "IEC/EN 60728-11", "earth_rules": [{"role": "mast", "name": "Mast to the earth terminal", "joins": "mast clamp and main earth terminal", "sizes": [{"material": "copper", "least_mm2": 16.0, "of": "copper"}, {"material": "aluminium", "least_mm2": 25.0, "of": "insulated aluminium"}, {"material": "steel", "least_mm2": 50.0, "of": "steel"}], "longest_m": null, "lightning": true, "origin": "IEC/EN 60728-11 (from memory)"}, {"role": "shields", "name": "Coax shields and devices", "joins": "grounding block and main earth terminal", "sizes": [{"material": "copper", "least_mm2": 4.0, "of": "copper"}], "longest_m": null, "lightning": false, "origin": "IEC/EN 60728-11 (from memory)"}, {"role": "devices", "name": "Amplifier and multiswitch housing", "joins": "housing and bonding bar", "sizes": [{"material": "copper", "least_mm2": 4.0, "of": "copper"}], "longest_m": null, "lightning": false, "origin": "IEC/EN 60728-11 (from memory)"}], "exemption": {"below_roof_edge_m": 2.0, "from_wall_m": 1.5, "origin": "IEC/EN 60728-11 (from memory)"}, "windows": {"DVB-T": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-T2": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-S": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "DVB-S2": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "ATSC": {"low_dbuv": 40.75, "high_dbuv": 88.75, "origin": "North American practice, -68 to -20 dBm (from memory)"}, "DVB-C": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "DVB-S2X": {"low_dbuv": 47.0, "high_dbuv": 77.0, "origin": "EN 60728-1 (from memory)"}, "ATSC 3.0": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "ISDB-T": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DTMB": {"low_dbuv": 45.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "DVB-C 64QAM": {"low_dbuv": 47.0, "high_dbuv": 67.0, "origin": "EN 60728-1 (from memory)"}, "DVB-C 256QAM": {"low_dbuv": 54.0, "high_dbuv": 74.0, "origin": "EN 60728-1 (from memory)"}, "FM": {"low_dbuv": 50.0, "high_dbuv": 70.0, "origin": "EN 60728-1, stereo (from memory)"}, "DAB": {"low_dbuv": 32.0, "high_dbuv": 70.0, "origin": "common practice, no source"}, "Mobile": {"low_dbuv": -60.0, "high_dbuv": 150.0, "origin": "no service"}}, "wind": {"coefficient": 1.2, "air_kg_m3": 1.25, "regions": [{"key": "standard", "name": "standard", "origin": "EN/IEC 60728-11 (from memory)", "pressure_low_pa": 800.0, "pressure_high_pa": 1100.0, "change_at_m": 20.0, "speed_ms": null, "exponent": 0.0}], "moment_limit_nm": 1650.0, "held_fraction": 0.16666667, "origin": "EN/IEC 60728-11 (from memory)"}, "mobile": {"erp_kw": 0.61, "away_m": 1000.0, "frequency_mhz": 763.0, "filter": "filter-694", "origin": "common practice, no source"}}');
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
  note TEXT NOT NULL, celsius REAL NOT NULL DEFAULT 20.0, route TEXT NOT NULL DEFAULT '[]',
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, from_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, to_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "link" VALUES('fern-cottage','l1',1024,'p1',0,'p2',0,'rg6',0.7,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l2',2048,'p2',0,'p3',0,'rg6',9.0,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l3',3072,'p3',0,'p4',0,'rg6',2.0,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l4',4096,'p4',0,'p5',0,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l5',5120,'p5',0,'p6',0,'rg6',8.0,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l6',6144,'p5',1,'p7',0,'rg6',14.0,'',20.0,'[]');
INSERT INTO "link" VALUES('fern-cottage','l7',7168,'p8',0,'p9',0,'rg6',8.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l1',1024,'p1',0,'p2',0,'rg6',0.7,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l2',2048,'p2',0,'p4',4,'rg6',12.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l7',7168,'p4',0,'p5',0,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l8',8192,'p4',1,'p5',1,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l9',9216,'p4',2,'p5',2,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l10',10240,'p4',3,'p5',3,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l11',11264,'p4',4,'p5',4,'rg6',0.5,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l12',12288,'p5',0,'p6',0,'rg6',6.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l13',13312,'p5',1,'p6',1,'rg6',6.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l14',14336,'p5',2,'p6',2,'rg6',6.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l15',15360,'p5',3,'p6',3,'rg6',6.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l16',16384,'p5',4,'p6',4,'rg6',6.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l17',17408,'p6',0,'p7',0,'rg6',9.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l18',18432,'p6',1,'p8',0,'rg6',12.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l19',19456,'p6',2,'p9',0,'rg6',14.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l20',20480,'p6',3,'p10',0,'rg6',13.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l21',21504,'p6',4,'p11',0,'rg6',16.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l22',22528,'p6',5,'p12',0,'rg6',18.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l23',23552,'p6',6,'p13',0,'rg6',22.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l24',24576,'p6',7,'p14',0,'rg6',20.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l25',25600,'p6',8,'p15',0,'rg6',24.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l26',26624,'p6',9,'p16',0,'rg6',28.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l27',27648,'p6',10,'p17',0,'rg59',36.0,'',20.0,'[]');
INSERT INTO "link" VALUES('skerry-house','l28',28672,'p6',11,'p18',0,'rg59',48.0,'Duct under the path, draw rope left in.',20.0,'[]');
CREATE TABLE "lock" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  symbol_mbd REAL NOT NULL,
  locked INTEGER NOT NULL,
  identity TEXT NOT NULL,
  target TEXT, at TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE mark (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  step TEXT NOT NULL,
  at TEXT NOT NULL,
  danger_read INTEGER NOT NULL,
  value REAL,
  note TEXT NOT NULL, confirmed_by TEXT NOT NULL DEFAULT '', confirmed_at TEXT NOT NULL DEFAULT '', done_by TEXT NOT NULL DEFAULT '', left_why TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (job, id)
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
, wind_region TEXT NOT NULL DEFAULT '', base TEXT NOT NULL DEFAULT 'unknown', bolts INTEGER NOT NULL DEFAULT 4, bolt_mm REAL NOT NULL DEFAULT 8.0, bolt_pull_n REAL, bolt_shear_n REAL, standoff_m REAL NOT NULL DEFAULT 0.2, bolts_apart_m REAL NOT NULL DEFAULT 0.2, ballast_kg REAL NOT NULL DEFAULT 0.0, foot_m REAL NOT NULL DEFAULT 1.0, buried_m REAL NOT NULL DEFAULT 0.8, footing_mm REAL NOT NULL DEFAULT 300.0, crew INTEGER NOT NULL DEFAULT 1, guys INTEGER NOT NULL DEFAULT 0, guy_m REAL NOT NULL DEFAULT 0.0, guy_out_m REAL NOT NULL DEFAULT 2.0, guy_mm REAL NOT NULL DEFAULT 4.0, ice_mm REAL NOT NULL DEFAULT 0.0) STRICT;
INSERT INTO "mast" VALUES('fern-cottage',2.4,0.6,48.0,3.0,235.0,NULL,NULL,'wall','a','unknown',4,8.0,NULL,NULL,0.2,0.2,0.0,1.0,0.8,300.0,1,0,0.0,2.0,4.0,0.0);
INSERT INTO "mast" VALUES('skerry-house',3.6,0.9,60.0,3.0,235.0,NULL,NULL,'wall','','unknown',4,8.0,NULL,NULL,0.2,0.2,0.0,1.0,0.8,300.0,1,0,0.0,2.0,4.0,0.0);
CREATE TABLE moved (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  cells    TEXT NOT NULL,        -- [[table, id, [columns]], ...]
  PRIMARY KEY (job, revision)
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
  seen_from_m REAL NOT NULL, nature TEXT NOT NULL DEFAULT 'fixed', growth_m_year REAL NOT NULL DEFAULT 0.0,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "obstruction" VALUES('fern-cottage','b1',1024,'Gum trees','crowns',60.0,95.0,18.0,45.0,NULL,5.2,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b1',1024,'Hill toward Cairnmore','ridge',60.0,80.0,1.4,2100.0,NULL,7.4,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b2',2048,'Chapel','gable',118.0,126.0,17.0,36.0,NULL,7.4,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b3',3072,'Row of sycamores','crowns',148.0,171.0,17.0,21.5,NULL,7.4,'leafy',0.4);
INSERT INTO "obstruction" VALUES('skerry-house','b4',4096,'Own chimney','block',200.0,206.0,38.0,3.1,NULL,7.4,'own',0.0);
CREATE TABLE outlet (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  floor TEXT NOT NULL,
  terrestrial INTEGER NOT NULL,
  satellite INTEGER NOT NULL, company TEXT NOT NULL DEFAULT 'none', tuners INTEGER NOT NULL DEFAULT 1,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "outlet" VALUES('fern-cottage','o1',1024,'Living room','Ground floor',1,0,'none',1);
INSERT INTO "outlet" VALUES('fern-cottage','o2',2048,'Bedroom','Ground floor',1,0,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o1',1024,'Petrel','Second floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o2',2048,'Tern','Second floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o3',3072,'Gannet','Second floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o4',4096,'Fulmar','First floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o5',5120,'Puffin','First floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o6',6144,'Eider','First floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o7',7168,'Razorbill','First floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o8',8192,'Lounge','Ground floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o9',9216,'Breakfast room','Ground floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o10',10240,'Office','Ground floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o11',11264,'Kitchen','Ground floor',1,1,'none',1);
INSERT INTO "outlet" VALUES('skerry-house','o12',12288,'Garden room','Garden',1,1,'none',1);
CREATE TABLE "part" (
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
INSERT INTO "part" VALUES('fern-cottage','p1',1024,'antenna','','a1',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p2',2048,'preamp-13','Preamplifier',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p3',3072,'block-1','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p4',4096,'inserter-12','Power inserter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p5',5120,'splitter-2','Splitter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p6',6144,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p7',7168,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p8',8192,'lnb-single-1075','LNB','a2',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p9',9216,'block-1','Grounding block, dish',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p1',1024,'antenna','','a2',NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p2',2048,'preamp-13','Preamplifier',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p4',4096,'block-5','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p5',5120,'arrester-5','Arresters',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p6',6144,'multiswitch-12','Multiswitch',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p7',7168,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p8',8192,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p9',9216,'plate','',NULL,'o3',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p10',10240,'plate','',NULL,'o4',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p11',11264,'plate','',NULL,'o5',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p12',12288,'plate','',NULL,'o6',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p13',13312,'plate','',NULL,'o7',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p14',14336,'plate','',NULL,'o8',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p15',15360,'plate','',NULL,'o9',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p16',16384,'plate','',NULL,'o10',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p17',17408,'plate','',NULL,'o11',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p18',18432,'plate','',NULL,'o12',NULL,NULL);
CREATE TABLE part_data (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  key TEXT NOT NULL,              -- by which rows use it
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,             -- JSON
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "part_data" VALUES('fern-cottage','dp1',1024,'antenna','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "antenna", "draws_as": "antenna", "name": "Antenna terminals", "inputs": 0, "outputs": 1, "receivers": [], "paths": [], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 40.0, "high_mhz": 900.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp2',2048,'block-1','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "block-1", "draws_as": "grounding_block", "name": "Grounding block", "inputs": 1, "outputs": 1, "receivers": [], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.1], [862.0, -0.2], [2150.0, -0.4]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [[0, 0]], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp3',3072,'inserter-12','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "inserter-12", "draws_as": "inserter", "name": "Power inserter 12 V", "inputs": 1, "outputs": 1, "receivers": [], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.5], [862.0, -0.6], [2150.0, -1.2]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [], "passes_tone": true, "supply": {"volts": 12.0, "most_ma": 200.0, "inputs": [0], "repeats": false, "low_volts": null}, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp4',4096,'lnb-single-1075','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "lnb-single-1075", "draws_as": "lnb", "name": "LNB, one output, oscillator 10.75 GHz", "inputs": 0, "outputs": 1, "receivers": [], "paths": [], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": {"ma": 110.0, "low_v": 11.5, "high_v": 19.0}, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 950.0, "high_mhz": 2150.0, "noise_db": 0.8, "lnb_gain_db": 58.0, "bands": [{"name": "V", "low_mhz": 11700.0, "high_mhz": 12900.0, "lo_mhz": 10750.0, "polarisations": ["V", "R"], "output": 0, "volts": 13.0, "tone": false}, {"name": "H", "low_mhz": 11700.0, "high_mhz": 12900.0, "lo_mhz": 10750.0, "polarisations": ["H", "L"], "output": 0, "volts": 18.0, "tone": false}], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp5',5120,'plate','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "plate", "draws_as": "plate", "name": "Wall plate", "inputs": 1, "outputs": 1, "receivers": [0], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.8], [862.0, -1.0], [950.0, -1.2], [2150.0, -1.6]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [[0, 0]], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp6',6144,'preamp-13','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "preamp-13", "draws_as": "preamplifier", "name": "Mast preamplifier 13 dB", "inputs": 1, "outputs": 1, "receivers": [], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 174.0, "high_mhz": 862.0, "gain_db": [[174.0, 13.0], [862.0, 13.0]], "noise_figure_db": 1.5, "rated_output_dbuv": 103.0, "lo_mhz": null}], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": {"ma": 60.0, "low_v": 9.0, "high_v": 24.0}, "dark_gain_db": -30.0, "setting": true, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('fern-cottage','dp7',7168,'splitter-2','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "splitter-2", "draws_as": "splitter", "name": "Splitter, two ways", "inputs": 1, "outputs": 2, "receivers": [], "paths": [{"inputs": [0], "outputs": [0, 1], "each": false, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -3.6], [862.0, -4.0], [950.0, -4.3], [2150.0, -5.5]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp1',1024,'antenna','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "antenna", "draws_as": "antenna", "name": "Antenna terminals", "inputs": 0, "outputs": 1, "receivers": [], "paths": [], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 40.0, "high_mhz": 900.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp2',2048,'arrester-5','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "arrester-5", "draws_as": "arrester", "name": "Arrester, five lines", "inputs": 5, "outputs": 5, "receivers": [], "paths": [{"inputs": [0, 1, 2, 3, 4], "outputs": [0, 1, 2, 3, 4], "each": true, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.1], [862.0, -0.2], [2150.0, -0.5]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [[0, 0], [1, 1], [2, 2], [3, 3], [4, 4]], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp3',3072,'block-5','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "block-5", "draws_as": "grounding_block", "name": "Grounding block, five lines", "inputs": 5, "outputs": 5, "receivers": [], "paths": [{"inputs": [0, 1, 2, 3, 4], "outputs": [0, 1, 2, 3, 4], "each": true, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.1], [862.0, -0.2], [2150.0, -0.4]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [[0, 0], [1, 1], [2, 2], [3, 3], [4, 4]], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp4',4096,'lnb-four','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "lnb-four", "draws_as": "lnb", "name": "LNB, four fixed outputs", "inputs": 0, "outputs": 4, "receivers": [], "paths": [], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": {"ma": 180.0, "low_v": 11.0, "high_v": 19.0}, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 950.0, "high_mhz": 2150.0, "noise_db": 0.7, "lnb_gain_db": 54.0, "bands": [{"name": "V low", "low_mhz": 10700.0, "high_mhz": 11700.0, "lo_mhz": 9750.0, "polarisations": ["V", "R"], "output": 0, "volts": 13.0, "tone": false}, {"name": "H low", "low_mhz": 10700.0, "high_mhz": 11700.0, "lo_mhz": 9750.0, "polarisations": ["H", "L"], "output": 1, "volts": 18.0, "tone": false}, {"name": "V high", "low_mhz": 11700.0, "high_mhz": 12750.0, "lo_mhz": 10600.0, "polarisations": ["V", "R"], "output": 2, "volts": 13.0, "tone": true}, {"name": "H high", "low_mhz": 11700.0, "high_mhz": 12750.0, "lo_mhz": 10600.0, "polarisations": ["H", "L"], "output": 3, "volts": 18.0, "tone": true}], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp5',5120,'multiswitch-12','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "multiswitch-12", "draws_as": "multiswitch", "name": "Multiswitch, 12 drops", "inputs": 5, "outputs": 12, "receivers": [], "paths": [{"inputs": [0, 1, 2, 3], "outputs": [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11], "each": false, "arrivals": "selected", "low_mhz": 950.0, "high_mhz": 2150.0, "gain_db": [[950.0, -4.0], [2150.0, -5.5]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}, {"inputs": [4], "outputs": [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11], "each": false, "arrivals": "added", "low_mhz": 47.0, "high_mhz": 862.0, "gain_db": [[47.0, -17.5], [862.0, -19.5]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [{"input": 0, "low_v": 11.5, "high_v": 14.9, "tone": false, "position": false}, {"input": 1, "low_v": 15.0, "high_v": 19.0, "tone": false, "position": false}, {"input": 2, "low_v": 11.5, "high_v": 14.9, "tone": true, "position": false}, {"input": 3, "low_v": 15.0, "high_v": 19.0, "tone": true, "position": false}], "dc": [], "passes_tone": true, "supply": {"volts": 14.0, "most_ma": 500.0, "inputs": [0, 1, 2, 3, 4], "repeats": false, "low_volts": null}, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": 60.0, "input_high_dbuv": 95.0, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp6',6144,'plate','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "plate", "draws_as": "plate", "name": "Wall plate", "inputs": 1, "outputs": 1, "receivers": [0], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 5.0, "high_mhz": 2150.0, "gain_db": [[5.0, -0.8], [862.0, -1.0], [950.0, -1.2], [2150.0, -1.6]], "noise_figure_db": null, "rated_output_dbuv": null, "lo_mhz": null}], "select": [], "dc": [[0, 0]], "passes_tone": true, "supply": null, "load": null, "dark_gain_db": -1000.0, "setting": false, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
INSERT INTO "part_data" VALUES('skerry-house','dp7',7168,'preamp-13','generic part, typical figures (common practice, no source)','2026-11-26','{"key": "preamp-13", "draws_as": "preamplifier", "name": "Mast preamplifier 13 dB", "inputs": 1, "outputs": 1, "receivers": [], "paths": [{"inputs": [0], "outputs": [0], "each": false, "arrivals": "added", "low_mhz": 174.0, "high_mhz": 862.0, "gain_db": [[174.0, 13.0], [862.0, 13.0]], "noise_figure_db": 1.5, "rated_output_dbuv": 103.0, "lo_mhz": null}], "select": [], "dc": [], "passes_tone": true, "supply": null, "load": {"ma": 60.0, "low_v": 9.0, "high_v": 24.0}, "dark_gain_db": -30.0, "setting": true, "input_low_dbuv": null, "input_high_dbuv": null, "low_mhz": 5.0, "high_mhz": 2150.0, "noise_db": 0.0, "lnb_gain_db": 0.0, "bands": [], "user_bands": []}');
CREATE TABLE photo (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  at TEXT NOT NULL,
  step TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  width_px INTEGER NOT NULL,
  height_px INTEGER NOT NULL,
  taken_by TEXT NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE "preset" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  name TEXT NOT NULL,
  tilt_deg REAL NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES dish (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE reading (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  part TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL, at TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "reading" VALUES('skerry-house','r1',1024,'p2','c1',82.9,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r2',2048,'p2','c2',80.9,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r3',3072,'p2','c3',80.1,37.2,'');
INSERT INTO "reading" VALUES('skerry-house','r4',4096,'p4','c1',80.5,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r5',5120,'p4','c2',79.3,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r6',6144,'p4','c3',78.9,38.2,'');
INSERT INTO "reading" VALUES('skerry-house','r7',7168,'p7','c1',60.1,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r8',8192,'p7','c2',56.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r9',9216,'p7','c3',55.0,37.4,'');
INSERT INTO "reading" VALUES('skerry-house','r10',10240,'p7','c4',63.1,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r11',11264,'p7','c5',60.9,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r12',12288,'p7','c6',59.5,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r13',13312,'p7','c7',59.5,17.6,'');
INSERT INTO "reading" VALUES('skerry-house','r14',14336,'p8','c1',59.7,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r15',15360,'p8','c2',57.2,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r16',16384,'p8','c3',53.7,37.5,'');
INSERT INTO "reading" VALUES('skerry-house','r17',17408,'p8','c4',63.5,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r18',18432,'p8','c5',61.5,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r19',19456,'p8','c6',60.0,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r20',20480,'p8','c7',58.4,16.5,'');
INSERT INTO "reading" VALUES('skerry-house','r21',21504,'p9','c1',59.0,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r22',22528,'p9','c2',56.6,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r23',23552,'p9','c3',54.0,37.3,'');
INSERT INTO "reading" VALUES('skerry-house','r24',24576,'p9','c4',62.7,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r25',25600,'p9','c5',59.6,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r26',26624,'p9','c6',59.6,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r27',27648,'p9','c7',57.8,17.1,'');
INSERT INTO "reading" VALUES('skerry-house','r28',28672,'p10','c1',58.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r29',29696,'p10','c2',57.3,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r30',30720,'p10','c3',54.3,38.3,'');
INSERT INTO "reading" VALUES('skerry-house','r31',31744,'p10','c4',63.8,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r32',32768,'p10','c5',60.8,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r33',33792,'p10','c6',58.8,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r34',34816,'p10','c7',57.5,17.0,'');
INSERT INTO "reading" VALUES('skerry-house','r35',35840,'p11','c1',57.7,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r36',36864,'p11','c2',55.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r37',37888,'p11','c3',54.3,37.1,'');
INSERT INTO "reading" VALUES('skerry-house','r38',38912,'p11','c4',61.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r39',39936,'p11','c5',60.3,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r40',40960,'p11','c6',57.6,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r41',41984,'p11','c7',56.4,17.0,'');
INSERT INTO "reading" VALUES('skerry-house','r42',43008,'p14','c1',57.5,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r43',44032,'p14','c2',56.3,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r44',45056,'p14','c3',52.2,37.6,'');
INSERT INTO "reading" VALUES('skerry-house','r45',46080,'p14','c4',60.8,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r46',47104,'p14','c5',59.3,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r47',48128,'p14','c6',56.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r48',49152,'p14','c7',54.7,17.4,'');
INSERT INTO "reading" VALUES('skerry-house','r49',50176,'p17','c1',53.8,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r50',51200,'p17','c2',51.4,NULL,'');
INSERT INTO "reading" VALUES('skerry-house','r51',52224,'p17','c3',45.1,37.2,'');
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
INSERT INTO "rig" VALUES('fern-cottage','none',NULL,NULL,NULL,NULL,NULL,NULL,0,0);
INSERT INTO "rig" VALUES('skerry-house','none',NULL,NULL,NULL,NULL,NULL,NULL,0,0);
CREATE TABLE run_school (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  open_ports TEXT NOT NULL,
  slack TEXT NOT NULL,
  connectors TEXT NOT NULL
) STRICT;
INSERT INTO "run_school" VALUES('fern-cottage','capped','loop','by_place');
INSERT INTO "run_school" VALUES('skerry-house','capped','loop','by_place');
CREATE TABLE "sample" (
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
  role TEXT NOT NULL, at TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
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
CREATE TABLE sent (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  key      TEXT NOT NULL,         -- of the request that was carried out
  at       TEXT NOT NULL,
  PRIMARY KEY (job, key)
) STRICT;
CREATE TABLE sheet (
  shelf TEXT NOT NULL,            -- part, cable or array
  key TEXT NOT NULL,              -- by which runs use it
  base TEXT NOT NULL,             -- the key of what it was made from
  origin TEXT NOT NULL,
  of_date TEXT NOT NULL,
  data TEXT NOT NULL,             -- JSON
  PRIMARY KEY (shelf, key)
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
, years_ahead INTEGER NOT NULL DEFAULT 5, surroundings TEXT NOT NULL DEFAULT 'open', clutter_db REAL, mobile_m REAL, mobile_bearing_deg REAL, boundary_m REAL, consent TEXT NOT NULL DEFAULT 'unasked', consent_note TEXT NOT NULL DEFAULT '', position_good_m REAL, roof_edge_m REAL) STRICT;
INSERT INTO "site" VALUES('fern-cottage','37°14''06"S 146°39''36"E',-37.235,146.66,310.0,7.5,NULL,14.0,8.0,95.0,4.0,185.0,2.0,185.0,5,'open',NULL,NULL,NULL,NULL,'unasked','',NULL,NULL);
INSERT INTO "site" VALUES('skerry-house','53.4805 N 9.9720 W',53.4805,-9.972,14.0,7.4,7.0,18.0,9.0,80.0,5.0,320.0,3.5,330.0,5,'open',NULL,NULL,NULL,NULL,'unasked','',NULL,NULL);
CREATE TABLE spine (
  job     TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  state   TEXT NOT NULL,         -- the state of the job that it was worked out from
  program TEXT NOT NULL,         -- and the program, its catalogue and its profiles
  line    TEXT NOT NULL
) STRICT;
CREATE TABLE spot (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  bearing_deg REAL NOT NULL,
  distance_m REAL NOT NULL,
  mount_height_m REAL NOT NULL,
  cable_m REAL NOT NULL,
  note TEXT NOT NULL, surface TEXT NOT NULL DEFAULT 'unknown', access TEXT NOT NULL DEFAULT 'unknown', wind TEXT NOT NULL DEFAULT 'unknown', in_way TEXT NOT NULL DEFAULT 'nothing', noise TEXT NOT NULL DEFAULT 'none',
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "spot" VALUES('skerry-house','s1',1024,'North-east corner',45.0,3.7,7.4,19.0,'','unknown','unknown','unknown','nothing','none');
INSERT INTO "spot" VALUES('skerry-house','s2',2048,'Garden post',120.0,16.0,3.0,34.0,'','unknown','unknown','unknown','nothing','none');
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
  wanted INTEGER NOT NULL DEFAULT 1, inclination_deg REAL NOT NULL DEFAULT 0.0, own_loss_db REAL, pattern TEXT NOT NULL DEFAULT '[]', delay_us REAL NOT NULL DEFAULT 0.0,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "target" VALUES('fern-cottage','t1',1024,'transmitter','Currawong Knoll',NULL,0.0,0,-37.02,146.48,720.0,1,0.0,16.0,'[]',0.0);
INSERT INTO "target" VALUES('fern-cottage','t2',2048,'satellite','Southern Plover',156.0,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t1',1024,'satellite','Corvus',28.0,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t2',2048,'satellite','Halcyon',12.5,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t3',3072,'transmitter','Cairnmore',NULL,0.0,0,53.59,-9.4195,385.0,1,0.0,8.0,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t4',4096,'satellite','Lanner',37.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t5',5120,'satellite','Avocet',25.5,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t6',6144,'satellite','Dunlin',1.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t7',7168,'satellite','Turnstone',-15.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('skerry-house','t8',8192,'satellite','Shelduck',-41.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]',0.0);
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
INSERT INTO "terminal" VALUES('fern-cottage','','',0,NULL,NULL,NULL,0.0,100.0,NULL,'new','');
INSERT INTO "terminal" VALUES('skerry-house','','',0,NULL,NULL,NULL,0.0,100.0,NULL,'new','');
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
CREATE TABLE transmitter (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  latitude_deg REAL NOT NULL,
  longitude_deg REAL NOT NULL,
  height_m REAL NOT NULL,
  pattern TEXT NOT NULL,
  carriers TEXT NOT NULL
) STRICT;
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
CREATE INDEX job_by_time ON job (removed_at, kept_at DESC, id);
CREATE INDEX photo_by_hash ON photo (sha256);
CREATE TRIGGER dish_came AFTER INSERT ON dish
BEGIN INSERT INTO antenna VALUES (new.job, new.id); END;
CREATE TRIGGER dish_went AFTER DELETE ON dish
BEGIN DELETE FROM antenna WHERE job = old.job AND id = old.id; END;
CREATE TRIGGER array_came AFTER INSERT ON array
BEGIN INSERT INTO antenna VALUES (new.job, new.id); END;
CREATE TRIGGER array_went AFTER DELETE ON array
BEGIN DELETE FROM antenna WHERE job = old.job AND id = old.id; END;
COMMIT;
