PRAGMA user_version = 3;
PRAGMA application_id = 0;
BEGIN TRANSACTION;
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
  wind_area_m2 REAL NOT NULL, upside_down INTEGER NOT NULL DEFAULT 0, scale_zero_deg REAL NOT NULL DEFAULT 0.0, skew_turns TEXT NOT NULL DEFAULT 'lnb', level_reads TEXT NOT NULL DEFAULT '0', mounting TEXT NOT NULL DEFAULT 'fixed', coarse_first TEXT NOT NULL DEFAULT 'elevation', focal_ratio REAL NOT NULL DEFAULT 0.6, reflector_height_mm REAL, reflector_width_mm REAL, reflector_depth_mm REAL, lnb_width_mm REAL NOT NULL DEFAULT 60.0, lean_deg REAL NOT NULL DEFAULT 0.0, lean_bearing_deg REAL NOT NULL DEFAULT 0.0, compass_error_deg REAL NOT NULL DEFAULT 3.0, scale_error_deg REAL NOT NULL DEFAULT 0.5, deg_per_turn REAL, play_turns REAL NOT NULL DEFAULT 0.0, motor_limit_deg REAL NOT NULL DEFAULT 65.0, motor_bend_deg REAL NOT NULL DEFAULT 30.0, motor_zero_deg REAL NOT NULL DEFAULT 0.0, availability_pct REAL NOT NULL DEFAULT 99.7, two_way INTEGER NOT NULL DEFAULT 0, transmit_w REAL NOT NULL DEFAULT 2.0, transmit_mhz REAL NOT NULL DEFAULT 14250.0, gain_table TEXT NOT NULL DEFAULT '[]', model TEXT NOT NULL DEFAULT '', low_mhz REAL NOT NULL DEFAULT 30.0, high_mhz REAL NOT NULL DEFAULT 3000.0, beamwidth_deg REAL, front_back_db REAL NOT NULL DEFAULT 20.0, length_m REAL NOT NULL DEFAULT 1.0, heading_deg REAL, elements TEXT NOT NULL DEFAULT 'auto', rotator INTEGER NOT NULL DEFAULT 0, standing TEXT NOT NULL DEFAULT 'outdoors', covering TEXT NOT NULL DEFAULT '', entry_loss_db REAL, above_ground_m REAL, hold TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "antenna" VALUES('fern-cottage','a1',0,'array','UHF array','t1',0.8,0.65,25.0,'face',0.0,'behind','V',11.0,1.6,0.08,0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL);
INSERT INTO "antenna" VALUES('fern-cottage','a2',1,'dish','Dish 0.75 m','t2',0.75,0.65,22.5,'scale',0.0,'front','V',12.0,0.4,0.44,0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL);
INSERT INTO "antenna" VALUES('skerry-house','a1',0,'dish','Dish 0.8 m','t1',0.8,0.65,25.0,'face_level',0.0,'behind','V',12.0,0.5,0.5,0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.4,250.0,3.0,0.5,0.8,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL);
INSERT INTO "antenna" VALUES('skerry-house','a2',1,'array','UHF array','t3',0.8,0.65,25.0,'face',0.0,'behind','V',12.5,1.9,0.09,0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL);
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
  modulation TEXT NOT NULL, label TEXT NOT NULL DEFAULT '', services TEXT NOT NULL DEFAULT '[]', network TEXT NOT NULL DEFAULT '',
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "carrier" VALUES('fern-cottage','c1',0,'t1','Renamed once',529.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','');
INSERT INTO "carrier" VALUES('fern-cottage','c2',1,'t1','mux B',564.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','');
INSERT INTO "carrier" VALUES('fern-cottage','c3',2,'t1','mux C',599.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','');
INSERT INTO "carrier" VALUES('fern-cottage','c4',3,'t2','H 12.407',12407.0,30.0,'H',51.0,'DVB-S2 8PSK 3/5','','[]','');
INSERT INTO "carrier" VALUES('fern-cottage','c5',4,'t2','V 12.576',12576.0,30.0,'V',51.0,'DVB-S2 8PSK 3/5','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c1',0,'t3','mux 1',482.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c2',1,'t3','mux 2',586.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c3',2,'t3','mux 3',690.0,7.61,'H',20.0,'DVB-T 64QAM 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c4',3,'t1','V 10.714',10714.0,27.5,'V',50.9,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c5',4,'t1','H 11.138',11138.0,27.5,'H',50.9,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c6',5,'t1','V 12.364',12364.0,27.5,'V',50.9,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c7',6,'t1','H 12.738',12738.0,27.5,'H',50.9,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c8',7,'t5','V 10.714',10714.0,22.0,'V',49.5,'DVB-S2 8PSK 3/4','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c9',8,'t5','H 11.138',11138.0,27.5,'H',49.5,'DVB-S2 8PSK 3/4','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c10',9,'t5','V 11.597',11597.0,22.0,'V',49.5,'DVB-S2 8PSK 3/4','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c11',10,'t4','V 10.714',10714.0,27.5,'V',50.0,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c12',11,'t4','H 11.264',11264.0,22.0,'H',50.0,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c13',12,'t4','H 12.322',12322.0,27.5,'H',50.0,'DVB-S2 8PSK 2/3','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c14',13,'t6','H 11.138',11138.0,30.0,'H',48.0,'DVB-S2 QPSK 3/4','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c15',14,'t6','V 11.389',11389.0,22.0,'V',48.0,'DVB-S2 QPSK 3/4','','[]','');
INSERT INTO "carrier" VALUES('skerry-house','c16',15,'t6','V 12.713',12713.0,30.0,'V',48.0,'DVB-S2 QPSK 3/4','','[]','');
CREATE TABLE change (
  job   TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  n     INTEGER NOT NULL,
  at    TEXT NOT NULL,
  label TEXT NOT NULL,
  diff  TEXT NOT NULL,
  PRIMARY KEY (job, n)
) STRICT;
INSERT INTO "change" VALUES('fern-cottage',1,'2026-11-26T21:28:17.662+00:00','change site','[["site","",{"position_text":"37°14''06\"S 146°39''36\"E","latitude_deg":-37.235,"longitude_deg":146.66,"height_m":310.0,"mount_height_m":5.2,"keep_clear_deg":null,"building_length_m":14.0,"building_width_m":8.0,"building_bearing_deg":95.0,"building_offset_m":4.0,"building_offset_bearing_deg":185.0,"entry_distance_m":2.0,"entry_bearing_deg":185.0,"years_ahead":5,"surroundings":"open","clutter_db":null,"mobile_m":null,"mobile_bearing_deg":null,"boundary_m":null,"consent":"unasked","consent_note":""},{"position_text":"37°14''06\"S 146°39''36\"E","latitude_deg":-37.235,"longitude_deg":146.66,"height_m":310.0,"mount_height_m":7.5,"keep_clear_deg":null,"building_length_m":14.0,"building_width_m":8.0,"building_bearing_deg":95.0,"building_offset_m":4.0,"building_offset_bearing_deg":185.0,"entry_distance_m":2.0,"entry_bearing_deg":185.0,"years_ahead":5,"surroundings":"open","clutter_db":null,"mobile_m":null,"mobile_bearing_deg":null,"boundary_m":null,"consent":"unasked","consent_note":""}]]');
INSERT INTO "change" VALUES('fern-cottage',2,'2026-11-26T21:28:17.709+00:00','change carrier','[["carrier","c1",{"id":"c1","target":"t1","name":"mux A","frequency_mhz":529.5,"bandwidth_mhz":6.66,"polarisation":"V","power":10.0,"modulation":"DVB-T 64QAM 3/4","label":"","services":[],"network":"","seq":0},{"id":"c1","target":"t1","name":"Renamed once","frequency_mhz":529.5,"bandwidth_mhz":6.66,"polarisation":"V","power":10.0,"modulation":"DVB-T 64QAM 3/4","label":"","services":[],"network":"","seq":0}]]');
INSERT INTO "change" VALUES('fern-cottage',3,'2026-11-26T21:28:17.728+00:00','remove outlet','[["outlet","o3",{"id":"o3","name":"Living room, dish","floor":"Ground floor","terrestrial":false,"satellite":true,"seq":2},null],["part","p10",{"id":"p10","type":"plate","name":"","antenna":null,"outlet":"o3","target":null,"setting_db":null,"seq":9},null],["link","l8",{"id":"l8","from_part":"p9","from_port":0,"to_part":"p10","to_port":0,"cable":"rg6","length_m":9.0,"note":"","seq":7},null]]');
INSERT INTO "change" VALUES('fern-cottage',4,'2026-11-26T21:28:17.746+00:00','change target','[["target","t1",{"id":"t1","kind":"transmitter","name":"Currawong Knoll","orbit_deg_e":null,"polarisation_offset_deg":0.0,"circular":false,"wanted":true,"inclination_deg":0.0,"latitude_deg":-37.02,"longitude_deg":146.48,"height_m":720.0,"own_loss_db":16.0,"pattern":[],"seq":0},{"id":"t1","kind":"transmitter","name":"Old name of a target","orbit_deg_e":null,"polarisation_offset_deg":0.0,"circular":false,"wanted":true,"inclination_deg":0.0,"latitude_deg":-37.02,"longitude_deg":146.48,"height_m":720.0,"own_loss_db":16.0,"pattern":[],"seq":0}]]');
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
) STRICT;
INSERT INTO "company" VALUES('fern-cottage','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'');
INSERT INTO "company" VALUES('skerry-house','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'');
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
INSERT INTO "conductor" VALUES('fern-cottage','e1',0,'mast','copper',16.0,5.0,1);
INSERT INTO "conductor" VALUES('fern-cottage','e2',1,'shields','copper',4.0,4.0,1);
INSERT INTO "conductor" VALUES('fern-cottage','e3',2,'devices','copper',4.0,1.5,1);
INSERT INTO "conductor" VALUES('skerry-house','e1',0,'mast','copper',16.0,8.6,1);
INSERT INTO "conductor" VALUES('skerry-house','e2',1,'shields','copper',4.0,6.2,1);
CREATE TABLE earth (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  indoors INTEGER NOT NULL,
  below_roof_edge_m REAL NOT NULL,
  from_wall_m REAL NOT NULL,
  overhead_lines TEXT NOT NULL,
  line_distance_m REAL
) STRICT;
INSERT INTO "earth" VALUES('fern-cottage',0,0.0,0.4,'none',NULL);
INSERT INTO "earth" VALUES('skerry-house',0,0.0,0.0,'near',14.0);
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
CREATE TABLE handover (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  customer TEXT NOT NULL,
  installer TEXT NOT NULL,
  remarks TEXT NOT NULL,
  handed_over INTEGER NOT NULL
) STRICT;
INSERT INTO "handover" VALUES('fern-cottage','The family','A. Mender','',0);
INSERT INTO "handover" VALUES('skerry-house','The house keeper','A. Mender','',0);
CREATE TABLE heard (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  hold TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, hold) REFERENCES hold (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE hold (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  place TEXT NOT NULL,
  above_ground_m REAL,
  heading_deg REAL,
  tilt_deg REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
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
INSERT INTO "job" VALUES('fern-cottage','Fern Cottage','Mallow Bend','australia-new-zealand','2026-03-25',5,3,'2026-11-26T21:28:17.765+00:00');
INSERT INTO "job" VALUES('skerry-house','Skerry House','Port Averil','europe','2026-03-25',0,0,'2026-11-26T21:28:15.320+00:00');
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
INSERT INTO "link" VALUES('fern-cottage','l1',0,'p1',0,'p2',0,'rg6',0.7,'');
INSERT INTO "link" VALUES('fern-cottage','l2',1,'p2',0,'p3',0,'rg6',9.0,'');
INSERT INTO "link" VALUES('fern-cottage','l3',2,'p3',0,'p4',0,'rg6',2.0,'');
INSERT INTO "link" VALUES('fern-cottage','l4',3,'p4',0,'p5',0,'rg6',0.5,'');
INSERT INTO "link" VALUES('fern-cottage','l5',4,'p5',0,'p6',0,'rg6',8.0,'');
INSERT INTO "link" VALUES('fern-cottage','l6',5,'p5',1,'p7',0,'rg6',14.0,'');
INSERT INTO "link" VALUES('fern-cottage','l7',6,'p8',0,'p9',0,'rg6',8.0,'');
INSERT INTO "link" VALUES('skerry-house','l1',0,'p1',0,'p2',0,'rg6',0.7,'');
INSERT INTO "link" VALUES('skerry-house','l2',1,'p2',0,'p4',4,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l3',2,'p3',0,'p4',0,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l4',3,'p3',1,'p4',1,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l5',4,'p3',2,'p4',2,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l6',5,'p3',3,'p4',3,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l7',6,'p4',0,'p5',0,'rg6',0.5,'');
INSERT INTO "link" VALUES('skerry-house','l8',7,'p4',1,'p5',1,'rg6',0.5,'');
INSERT INTO "link" VALUES('skerry-house','l9',8,'p4',2,'p5',2,'rg6',0.5,'');
INSERT INTO "link" VALUES('skerry-house','l10',9,'p4',3,'p5',3,'rg6',0.5,'');
INSERT INTO "link" VALUES('skerry-house','l11',10,'p4',4,'p5',4,'rg6',0.5,'');
INSERT INTO "link" VALUES('skerry-house','l12',11,'p5',0,'p6',0,'rg6',6.0,'');
INSERT INTO "link" VALUES('skerry-house','l13',12,'p5',1,'p6',1,'rg6',6.0,'');
INSERT INTO "link" VALUES('skerry-house','l14',13,'p5',2,'p6',2,'rg6',6.0,'');
INSERT INTO "link" VALUES('skerry-house','l15',14,'p5',3,'p6',3,'rg6',6.0,'');
INSERT INTO "link" VALUES('skerry-house','l16',15,'p5',4,'p6',4,'rg6',6.0,'');
INSERT INTO "link" VALUES('skerry-house','l17',16,'p6',0,'p7',0,'rg6',9.0,'');
INSERT INTO "link" VALUES('skerry-house','l18',17,'p6',1,'p8',0,'rg6',12.0,'');
INSERT INTO "link" VALUES('skerry-house','l19',18,'p6',2,'p9',0,'rg6',14.0,'');
INSERT INTO "link" VALUES('skerry-house','l20',19,'p6',3,'p10',0,'rg6',13.0,'');
INSERT INTO "link" VALUES('skerry-house','l21',20,'p6',4,'p11',0,'rg6',16.0,'');
INSERT INTO "link" VALUES('skerry-house','l22',21,'p6',5,'p12',0,'rg6',18.0,'');
INSERT INTO "link" VALUES('skerry-house','l23',22,'p6',6,'p13',0,'rg6',22.0,'');
INSERT INTO "link" VALUES('skerry-house','l24',23,'p6',7,'p14',0,'rg6',20.0,'');
INSERT INTO "link" VALUES('skerry-house','l25',24,'p6',8,'p15',0,'rg6',24.0,'');
INSERT INTO "link" VALUES('skerry-house','l26',25,'p6',9,'p16',0,'rg6',28.0,'');
INSERT INTO "link" VALUES('skerry-house','l27',26,'p6',10,'p17',0,'rg59',36.0,'');
INSERT INTO "link" VALUES('skerry-house','l28',27,'p6',11,'p18',0,'rg59',48.0,'Duct under the path, draw rope left in.');
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
INSERT INTO "mast" VALUES('fern-cottage',2.4,0.6,48.0,3.0,235.0,NULL,NULL,'wall');
INSERT INTO "mast" VALUES('skerry-house',3.6,0.9,60.0,3.0,235.0,NULL,NULL,'wall');
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
INSERT INTO "obstruction" VALUES('fern-cottage','b1',0,'Gum trees','crowns',60.0,95.0,18.0,45.0,NULL,5.2,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b1',0,'Hill toward Cairnmore','ridge',60.0,80.0,1.4,2100.0,NULL,7.4,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b2',1,'Chapel','gable',118.0,126.0,17.0,36.0,NULL,7.4,'fixed',0.0);
INSERT INTO "obstruction" VALUES('skerry-house','b3',2,'Row of sycamores','crowns',148.0,171.0,17.0,21.5,NULL,7.4,'leafy',0.4);
INSERT INTO "obstruction" VALUES('skerry-house','b4',3,'Own chimney','block',200.0,206.0,38.0,3.1,NULL,7.4,'own',0.0);
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
INSERT INTO "outlet" VALUES('fern-cottage','o1',0,'Living room','Ground floor',1,0);
INSERT INTO "outlet" VALUES('fern-cottage','o2',1,'Bedroom','Ground floor',1,0);
INSERT INTO "outlet" VALUES('skerry-house','o1',0,'Petrel','Second floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o2',1,'Tern','Second floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o3',2,'Gannet','Second floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o4',3,'Fulmar','First floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o5',4,'Puffin','First floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o6',5,'Eider','First floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o7',6,'Razorbill','First floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o8',7,'Lounge','Ground floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o9',8,'Breakfast room','Ground floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o10',9,'Office','Ground floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o11',10,'Kitchen','Ground floor',1,1);
INSERT INTO "outlet" VALUES('skerry-house','o12',11,'Garden room','Garden',1,1);
CREATE TABLE part (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  type TEXT NOT NULL,
  name TEXT NOT NULL,
  antenna TEXT,
  outlet TEXT,
  setting_db REAL, target TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "part" VALUES('fern-cottage','p1',0,'antenna','','a1',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p2',1,'preamp-13','Preamplifier',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p3',2,'block-1','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p4',3,'inserter-12','Power inserter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p5',4,'splitter-2','Splitter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p6',5,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p7',6,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p8',7,'lnb-single-1075','LNB','a2',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p9',8,'block-1','Grounding block, dish',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p1',0,'antenna','','a2',NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p2',1,'preamp-13','Preamplifier',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p3',2,'lnb-four','LNB','a1',NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p4',3,'block-5','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p5',4,'arrester-5','Arresters',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p6',5,'multiswitch-12','Multiswitch',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p7',6,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p8',7,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p9',8,'plate','',NULL,'o3',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p10',9,'plate','',NULL,'o4',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p11',10,'plate','',NULL,'o5',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p12',11,'plate','',NULL,'o6',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p13',12,'plate','',NULL,'o7',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p14',13,'plate','',NULL,'o8',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p15',14,'plate','',NULL,'o9',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p16',15,'plate','',NULL,'o10',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p17',16,'plate','',NULL,'o11',NULL,NULL);
INSERT INTO "part" VALUES('skerry-house','p18',17,'plate','',NULL,'o12',NULL,NULL);
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
INSERT INTO "reading" VALUES('skerry-house','r1',0,'p2','c1',82.9,NULL);
INSERT INTO "reading" VALUES('skerry-house','r2',1,'p2','c2',80.9,NULL);
INSERT INTO "reading" VALUES('skerry-house','r3',2,'p2','c3',80.1,37.2);
INSERT INTO "reading" VALUES('skerry-house','r4',3,'p4','c1',80.5,NULL);
INSERT INTO "reading" VALUES('skerry-house','r5',4,'p4','c2',79.3,NULL);
INSERT INTO "reading" VALUES('skerry-house','r6',5,'p4','c3',78.9,38.2);
INSERT INTO "reading" VALUES('skerry-house','r7',6,'p7','c1',60.1,NULL);
INSERT INTO "reading" VALUES('skerry-house','r8',7,'p7','c2',56.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r9',8,'p7','c3',55.0,37.4);
INSERT INTO "reading" VALUES('skerry-house','r10',9,'p7','c4',63.1,NULL);
INSERT INTO "reading" VALUES('skerry-house','r11',10,'p7','c5',60.9,NULL);
INSERT INTO "reading" VALUES('skerry-house','r12',11,'p7','c6',59.5,NULL);
INSERT INTO "reading" VALUES('skerry-house','r13',12,'p7','c7',59.5,17.6);
INSERT INTO "reading" VALUES('skerry-house','r14',13,'p8','c1',59.7,NULL);
INSERT INTO "reading" VALUES('skerry-house','r15',14,'p8','c2',57.2,NULL);
INSERT INTO "reading" VALUES('skerry-house','r16',15,'p8','c3',53.7,37.5);
INSERT INTO "reading" VALUES('skerry-house','r17',16,'p8','c4',63.5,NULL);
INSERT INTO "reading" VALUES('skerry-house','r18',17,'p8','c5',61.5,NULL);
INSERT INTO "reading" VALUES('skerry-house','r19',18,'p8','c6',60.0,NULL);
INSERT INTO "reading" VALUES('skerry-house','r20',19,'p8','c7',58.4,16.5);
INSERT INTO "reading" VALUES('skerry-house','r21',20,'p9','c1',59.0,NULL);
INSERT INTO "reading" VALUES('skerry-house','r22',21,'p9','c2',56.6,NULL);
INSERT INTO "reading" VALUES('skerry-house','r23',22,'p9','c3',54.0,37.3);
INSERT INTO "reading" VALUES('skerry-house','r24',23,'p9','c4',62.7,NULL);
INSERT INTO "reading" VALUES('skerry-house','r25',24,'p9','c5',59.6,NULL);
INSERT INTO "reading" VALUES('skerry-house','r26',25,'p9','c6',59.6,NULL);
INSERT INTO "reading" VALUES('skerry-house','r27',26,'p9','c7',57.8,17.1);
INSERT INTO "reading" VALUES('skerry-house','r28',27,'p10','c1',58.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r29',28,'p10','c2',57.3,NULL);
INSERT INTO "reading" VALUES('skerry-house','r30',29,'p10','c3',54.3,38.3);
INSERT INTO "reading" VALUES('skerry-house','r31',30,'p10','c4',63.8,NULL);
INSERT INTO "reading" VALUES('skerry-house','r32',31,'p10','c5',60.8,NULL);
INSERT INTO "reading" VALUES('skerry-house','r33',32,'p10','c6',58.8,NULL);
INSERT INTO "reading" VALUES('skerry-house','r34',33,'p10','c7',57.5,17.0);
INSERT INTO "reading" VALUES('skerry-house','r35',34,'p11','c1',57.7,NULL);
INSERT INTO "reading" VALUES('skerry-house','r36',35,'p11','c2',55.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r37',36,'p11','c3',54.3,37.1);
INSERT INTO "reading" VALUES('skerry-house','r38',37,'p11','c4',61.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r39',38,'p11','c5',60.3,NULL);
INSERT INTO "reading" VALUES('skerry-house','r40',39,'p11','c6',57.6,NULL);
INSERT INTO "reading" VALUES('skerry-house','r41',40,'p11','c7',56.4,17.0);
INSERT INTO "reading" VALUES('skerry-house','r42',41,'p14','c1',57.5,NULL);
INSERT INTO "reading" VALUES('skerry-house','r43',42,'p14','c2',56.3,NULL);
INSERT INTO "reading" VALUES('skerry-house','r44',43,'p14','c3',52.2,37.6);
INSERT INTO "reading" VALUES('skerry-house','r45',44,'p14','c4',60.8,NULL);
INSERT INTO "reading" VALUES('skerry-house','r46',45,'p14','c5',59.3,NULL);
INSERT INTO "reading" VALUES('skerry-house','r47',46,'p14','c6',56.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r48',47,'p14','c7',54.7,17.4);
INSERT INTO "reading" VALUES('skerry-house','r49',48,'p17','c1',53.8,NULL);
INSERT INTO "reading" VALUES('skerry-house','r50',49,'p17','c2',51.4,NULL);
INSERT INTO "reading" VALUES('skerry-house','r51',50,'p17','c3',45.1,37.2);
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
INSERT INTO "sample" VALUES('skerry-house','q1',0,'a1','azimuth',-2.0,'deg',8.6,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q2',1,'a1','azimuth',-1.5,'deg',11.3,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q3',2,'a1','azimuth',-1.0,'deg',13.3,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q4',3,'a1','azimuth',-0.5,'deg',14.2,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q5',4,'a1','azimuth',0.0,'deg',13.8,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q6',5,'a1','azimuth',0.5,'deg',12.1,'db','sweep');
INSERT INTO "sample" VALUES('skerry-house','q7',6,'a1','azimuth',1.0,'deg',9.6,'db','sweep');
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
CREATE TABLE setting (
  name  TEXT PRIMARY KEY,
  value TEXT NOT NULL
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
, years_ahead INTEGER NOT NULL DEFAULT 5, surroundings TEXT NOT NULL DEFAULT 'open', clutter_db REAL, mobile_m REAL, mobile_bearing_deg REAL, boundary_m REAL, consent TEXT NOT NULL DEFAULT 'unasked', consent_note TEXT NOT NULL DEFAULT '') STRICT;
INSERT INTO "site" VALUES('fern-cottage','37°14''06"S 146°39''36"E',-37.235,146.66,310.0,7.5,NULL,14.0,8.0,95.0,4.0,185.0,2.0,185.0,5,'open',NULL,NULL,NULL,NULL,'unasked','');
INSERT INTO "site" VALUES('skerry-house','53.4805 N 9.9720 W',53.4805,-9.972,14.0,7.4,7.0,18.0,9.0,80.0,5.0,320.0,3.5,330.0,5,'open',NULL,NULL,NULL,NULL,'unasked','');
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
INSERT INTO "spot" VALUES('skerry-house','s1',0,'North-east corner',45.0,3.7,7.4,19.0,'');
INSERT INTO "spot" VALUES('skerry-house','s2',1,'Garden post',120.0,16.0,3.0,34.0,'');
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
  wanted INTEGER NOT NULL DEFAULT 1, inclination_deg REAL NOT NULL DEFAULT 0.0, own_loss_db REAL, pattern TEXT NOT NULL DEFAULT '[]',
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "target" VALUES('fern-cottage','t1',0,'transmitter','Currawong Knoll',NULL,0.0,0,-37.02,146.48,720.0,1,0.0,16.0,'[]');
INSERT INTO "target" VALUES('fern-cottage','t2',1,'satellite','Southern Plover',156.0,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t1',0,'satellite','Corvus',28.0,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t2',1,'satellite','Halcyon',12.5,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t3',2,'transmitter','Cairnmore',NULL,0.0,0,53.59,-9.4195,385.0,1,0.0,8.0,'[]');
INSERT INTO "target" VALUES('skerry-house','t4',3,'satellite','Lanner',37.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t5',4,'satellite','Avocet',25.5,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t6',5,'satellite','Dunlin',1.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t7',6,'satellite','Turnstone',-15.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]');
INSERT INTO "target" VALUES('skerry-house','t8',7,'satellite','Shelduck',-41.0,0.0,0,NULL,NULL,150.0,0,0.0,NULL,'[]');
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
COMMIT;
